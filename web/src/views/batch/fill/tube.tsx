import type { Figure } from '~/views/batch/fill/figure';

const REACH = 1.15;

/** A tube that fills towards its stop band. */
export function Tube({
  net,
  target,
  figure,
  says,
}: {
  net: number;
  target: number;
  figure: Figure;
  says: string;
}) {
  const whole = Math.max(REACH * target, figure.high * 1.04, 1);
  const at = (grams: number) => `${100 * Math.min(Math.max(grams / whole, 0), 1)}%`;
  const colour = figure.state === 'inside' ? 'bg-ink' : figure.state === 'over' ? 'bg-alert' : 'bg-ochre';
  return (
    <div
      role="img"
      aria-label={says}
      className="relative h-12 w-full shrink-0 overflow-hidden rounded-full border-2 border-edge bg-sheet"
    >
      <span
        className="absolute inset-y-0 border-x-3 border-ink bg-band"
        style={{ left: at(figure.low), width: `max(6px, calc(${at(figure.high)} - ${at(figure.low)}))` }}
      />
      <span className={`absolute inset-y-2.5 left-0 rounded-r-full ${colour}`} style={{ width: at(net) }} />
    </div>
  );
}
