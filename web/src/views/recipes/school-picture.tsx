import type { ReactNode } from 'react';
import type { School } from '~/lib/schools';

/** What a way of portioning does to two containers, in ink: seen from the side, as the container sections are. */
export function SchoolPicture({ school }: { school: School }) {
  return (
    <svg
      aria-hidden
      viewBox="0 0 96 40"
      className="h-10 w-24 shrink-0 fill-none stroke-ink [stroke-linejoin:round] [stroke-width:1.5]"
    >
      {PICTURES[school]}
    </svg>
  );
}

/** An open container with what is in it. */
function Tub({ x, width = 26, children }: { x: number; width?: number; children: ReactNode }) {
  return (
    <g transform={`translate(${x} 0)`}>
      {children}
      <path d={`M1 8v28q0 2 2 2h${width - 6}q2 0 2-2V8`} />
    </g>
  );
}

const Layer = ({ from, height, width = 26 }: { from: number; height: number; width?: number }) => (
  <rect x={2} y={from} width={width - 4} height={height} className="fill-pale stroke-none" />
);

const Divider = () => <path d="M48 10v26" className="stroke-steel" />;

const scoop = (y: number) => <path d={`M5 ${y}a8 7 0 0 1 16 0z`} className="fill-pale" />;
const wrap = (x: number) => (
  <g transform={`translate(${x} 0)`}>
    <rect x={1} y={14} width={34} height={14} rx={7} />
    <rect x={4} y={19} width={28} height={4} className="fill-pale stroke-none" />
    <path d="M12 34h12M18 30v4" />
  </g>
);
const plate = (x: number, radius: number) => (
  <g transform={`translate(${x} 21)`}>
    <path
      d={`M0 0v${-radius}a${radius} ${radius} 0 0 1 ${radius} ${radius}z`}
      className="fill-pale stroke-none"
    />
    <circle r={radius} />
  </g>
);
const mixed = (from: number) => (
  <>
    <Layer from={from} height={37 - from} />
    <path d={`M4 ${from + 4}h18M4 ${from + 9}h18`} className="stroke-ink [stroke-dasharray:1_4]" />
  </>
);

const PICTURES: Record<School, ReactNode> = {
  'by component': (
    <>
      <Tub x={12}>
        <Layer from={15} height={22} />
        <path d="M2 15h22" />
      </Tub>
      <Tub x={56}>
        <Layer from={27} height={10} />
        <path d="M2 27h22" />
      </Tub>
    </>
  ),
  pieces: (
    <>
      <rect x={4} y={8} width={40} height={30} rx={2} className="fill-pale" />
      <path d="M17 8v30M31 8v30M4 23h40" />
      <Tub x={60}>
        <rect x={5} y={26} width={8} height={9} className="fill-pale" />
        <rect x={14} y={26} width={8} height={9} className="fill-pale" />
      </Tub>
    </>
  ),
  'fixed measure': (
    <>
      <Tub x={12}>
        {scoop(36)}
        {scoop(25)}
      </Tub>
      <Tub x={56}>{scoop(36)}</Tub>
    </>
  ),
  'one pot': (
    <>
      <Tub x={12}>{mixed(14)}</Tub>
      <Tub x={56}>{mixed(24)}</Tub>
    </>
  ),
  'equal split': (
    <>
      <Tub x={4}>
        <Layer from={20} height={17} />
      </Tub>
      <Tub x={35}>
        <Layer from={20} height={17} />
      </Tub>
      <Tub x={66}>
        <Layer from={20} height={17} />
      </Tub>
      <path d="M2 20h92" className="[stroke-dasharray:3_3]" />
    </>
  ),
  'plate shares': (
    <>
      {plate(24, 16)}
      <Divider />
      {plate(72, 11)}
    </>
  ),
  'built raw': (
    <>
      {wrap(6)}
      {wrap(54)}
    </>
  ),
  'by eye': (
    <>
      <Tub x={12}>
        <path d="M2 26q5-6 11 0t11 0v11h-22z" className="fill-pale stroke-none" />
        <path d="M2 26q5-6 11 0t11 0" className="[stroke-dasharray:2_2]" />
      </Tub>
      <Tub x={56}>
        <path d="M2 26q5-6 11 0t11 0v11h-22z" className="fill-pale stroke-none" />
        <path d="M2 26q5-6 11 0t11 0" className="[stroke-dasharray:2_2]" />
      </Tub>
    </>
  ),
};
