import { exactGrams, weight } from '~/lib/format';
import { massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Tube } from '~/views/batch/fill/tube';
import type { AtPart } from '~/views/batch/fill/use-part';
import { slipWords } from '~/views/batch/fill/watch';
import { countWords, UNSURE } from '~/views/batch/fill/ways';

/** What is filled, and for whom. */
export function Heading({ at, withDish }: { at: AtPart; withDish: boolean }) {
  const { box, part } = at.cell;
  return (
    <div>
      <h2 className="text-[28px] leading-tight">{part.name}</h2>
      <p className="text-muted">
        {box.client}, {box.slot}, {box.number} of {box.of}
        {withDish ? `, ${box.dish}` : ''}
        {part.place === 'beside' ? ', in the tub beside it' : ''}
      </p>
      {at.line ? <p className="text-xl font-bold">{at.line.name}</p> : null}
      {box.kept_out.length ? (
        <p className="text-sm font-bold">{box.kept_out.join(', ')}: clean hands, spoon and board.</p>
      ) : null}
    </div>
  );
}

/** How many grams still: the one number, level with the stop band, and its state in a word. */
export function Still({
  at,
  isLost,
  isBig,
  isTight,
}: {
  at: AtPart;
  isLost: boolean;
  isBig: boolean;
  isTight: boolean;
}) {
  const { figure, inAlready, step, still, target, total, way } = at;
  const { part } = at.cell;
  const digits = onScale(Math.abs(still), step);
  const state = wordOf(at);
  const isInside = figure.state === 'inside' && total !== null;
  const slip = at.isLive && at.bench.slip ? slipWords(at.bench.slip, weight) : '';
  const isSlip = at.bench.slip !== null && at.bench.slip.kind !== 'put on';
  return (
    <>
      <p
        className={`figures my-auto flex items-baseline justify-center gap-3 leading-[1.25] font-bold ${figure.state === 'over' && total !== null ? 'text-alert' : ''}`}
      >
        <span data-testid="still" className={sizeOf(digits, isBig, isTight)}>
          {digits}
        </span>
        <span className="text-left text-2xl leading-tight">
          {massUnit()}
          <br />
          {still >= -step / 2 ? 'still' : figure.state === 'over' ? 'too much' : 'over'}
        </span>
      </p>
      <Tube
        net={total ?? inAlready}
        target={target}
        figure={figure}
        says={`${part.name}: ${exactGrams(total ?? inAlready)} of ${weight(target)}, ${state}`}
      />
      <p className="figures text-muted">
        {onScale(total ?? inAlready, step)} of {onScale(target, step)} {massUnit()}, stop{' '}
        {onScale(figure.low, step)} to {onScale(figure.high, step)}
        {way === 'running total' ? `; the scale then shows ${onScale(at.before + target, step)}` : ''}
      </p>
      <p
        role="status"
        className={`min-h-7 font-bold ${isInside ? 'mx-auto w-fit rounded-full bg-band px-4' : ''}`}
      >
        {state}
        {at.one !== null ? `: ${countWords(way, at.count, at.one)}` : ''}
        {UNSURE[way] && total !== null ? ` (${UNSURE[way]})` : ''}
      </p>
      <p role="status" className={`min-h-6 text-sm ${isSlip ? 'font-bold text-alert' : 'text-muted'}`}>
        {isLost ? 'The scale says nothing: type the weight, it goes on by itself when it is back.' : slip}
      </p>
    </>
  );
}

/** How many went in, of what is counted. */
export function Counter({ at }: { at: AtPart }) {
  if (at.one === null || (at.cell.part.filled && !at.isCorrecting)) return null;
  return (
    <div className="flex justify-center gap-3">
      <Button className="min-h-16 min-w-16 text-2xl" aria-label="One less" onClick={() => at.moreBy(-1)}>
        −
      </Button>
      <Button className="min-h-16 min-w-16 text-2xl" aria-label="One more" onClick={() => at.moreBy(1)}>
        +
      </Button>
    </div>
  );
}

/** What lies outside the band, what becomes of it, and that Next accepts it all the same. */
export function Asked({ at }: { at: AtPart }) {
  const { figure, tried } = at;
  if (!at.asked || !at.isOutside) return null;
  return (
    <section className="rounded-lg border border-l-4 border-steel border-l-alert bg-sheet p-3 text-left">
      <p className="font-bold">
        {weight(Math.abs(figure.still))} {figure.still < 0 ? 'too much' : 'too little'}
        {tried
          ? tried.missed.length
            ? `: then ${tried.missed.join(', ')}, whatever comes after.`
            : ': the rest of the container makes it good.'
          : ''}
      </p>
      {tried?.overfull ? (
        <p className="font-bold text-alert">The container is too small: {tried.overfull}.</p>
      ) : null}
      <p className="text-sm text-muted">
        {figure.still < 0 ? 'Take some out' : 'Put more in'}, or accept it with Next.
      </p>
    </section>
  );
}

/** Why a container that is closed is filled differently now. */
export function Reason({ at }: { at: AtPart }) {
  if (!at.cell.box.is_closed || !at.isCorrecting) return null;
  return (
    <label className="block text-left text-sm">
      This container is closed. Why is it corrected?
      <input
        className="mt-1 block min-h-11 w-full rounded-lg border border-edge bg-sheet px-3 text-base"
        value={at.reason.text}
        onChange={(event) => at.reason.set(event.target.value)}
      />
      {at.reason.isLacking ? (
        <span role="alert" className="font-bold text-alert">
          Say why, then press Next again.
        </span>
      ) : null}
    </label>
  );
}

/** A weight as the scale can show it. */
const onScale = (grams: number, step: number) => exactGrams(step >= 1 ? Math.round(grams) : grams);

/** Readable at two metres, whatever its length; a little less where something has to be said below it. */
function sizeOf(digits: string, isBig: boolean, isTight: boolean): string {
  if (isTight) return 'text-[72px] sm:text-[96px]';
  if (digits.length > 4) return isBig ? 'text-[80px] sm:text-[130px]' : 'text-[72px] sm:text-[100px]';
  return isBig ? 'text-[130px] sm:text-[190px]' : 'text-[110px] sm:text-[140px]';
}

function wordOf({ cell, isCorrecting, isNothing, total, figure: { state } }: AtPart): string {
  if (cell.part.filled && !isCorrecting) return 'in already';
  if (isNothing && state === 'inside') return 'nothing of it goes in: Next';
  if (total === null) return 'to go in';
  return state === 'inside' ? 'enough: stop' : state === 'over' ? 'too much' : 'not yet';
}
