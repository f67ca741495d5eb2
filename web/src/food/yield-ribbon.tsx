import { grams, weight, yieldWords } from '~/lib/format';

/**
 * Two bars on one gram scale, in over out. The paler end of the lower one is the range of an estimate;
 * once measured it is solid.
 */
export function YieldRibbon({
  basis,
  low,
  cooked,
  high,
  factor,
  measured,
  figures = true,
}: {
  basis: number;
  low: number;
  cooked: number;
  high: number;
  factor: number;
  measured: boolean;
  figures?: boolean;
}) {
  const scale = Math.max(basis, cooked, measured ? 0 : high, 1);
  const width = (value: number) => `${(100 * value) / scale}%`;
  const about = measured ? '' : '~';
  return (
    <figure
      aria-label={`${weight(basis)} in, ${measured ? 'weighed' : 'about'} ${weight(cooked)} out, ${yieldWords(factor)}${
        measured ? '' : `, usually ${weight(low)} to ${weight(high)}`
      }`}
    >
      <span aria-hidden className="block space-y-1">
        <span className="block h-1.5 rounded-full bg-pale" style={{ width: width(basis) }} />
        <span className="relative block h-1.5">
          {measured ? null : (
            <span
              className="absolute inset-y-0 left-0 rounded-full bg-steel"
              style={{ width: width(high) }}
            />
          )}
          <span
            className="absolute inset-y-0 left-0 rounded-full bg-ink"
            style={{ width: width(measured ? cooked : Math.min(low, cooked)) }}
          />
          {measured ? null : (
            <span
              className="absolute inset-y-0 rounded-r-full bg-edge"
              style={{ left: width(low), width: width(Math.max(cooked - low, 0)) }}
            />
          )}
        </span>
      </span>
      {figures ? (
        <figcaption
          aria-hidden
          className="figures mt-1 flex flex-wrap items-baseline gap-x-2 text-[11px] leading-tight"
        >
          <span className={`text-base whitespace-nowrap ${measured ? 'font-bold' : 'text-muted'}`}>
            {about}
            {weight(cooked)}
          </span>
          <span className="whitespace-nowrap text-muted">of {grams(basis)} raw</span>
          <span className="font-sans text-xs whitespace-nowrap text-muted">{yieldWords(factor)}</span>
        </figcaption>
      ) : null}
    </figure>
  );
}
