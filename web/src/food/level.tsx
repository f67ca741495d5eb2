import type { Schemas } from '~/api/client';
import { MACROS } from '~/food/macros';
import type { MacroKey } from '~/food/nutrients';
import { exactNumber, signed, wholeNumber } from '~/lib/format';
import { macroShown } from '~/lib/units';

/** The level of one gauge that the server sent, in the person's units. */
export function GaugeLevel({ gauge, nutrient }: { gauge: Schemas['GaugeView']; nutrient: MacroKey }) {
  return (
    <Level
      nutrient={nutrient}
      target={macroShown(nutrient, gauge.target)}
      tolerance={macroShown(nutrient, gauge.tolerance)}
      amount={macroShown(nutrient, gauge.amount)}
      off={macroShown(nutrient, gauge.off)}
      inside={gauge.miss === 0}
      known={gauge.known}
      atLeast={gauge.at_least}
    />
  );
}

/** A tube with the tolerance as a band and a bubble for where the container stands. */
function Level({
  nutrient,
  target,
  tolerance,
  amount,
  off,
  inside,
  known,
  atLeast,
}: {
  nutrient: MacroKey;
  target: number;
  tolerance: number;
  amount: number;
  off: number;
  inside: boolean;
  known: boolean;
  atLeast: boolean;
}) {
  const macro = MACROS[nutrient];
  const reach = Math.max(2.5 * tolerance, 0.1 * target, 1);
  const place = 50 + 46 * Math.max(-1, Math.min(1, off / reach));
  const band = 46 * (tolerance / reach);
  const where = !known
    ? 'not known: an ingredient does not state it'
    : inside
      ? 'inside'
      : `outside by ${signed(off)}`;
  return (
    <span
      role="img"
      aria-label={`${macro.word} ${atLeast ? 'at least ' : ''}${wholeNumber(amount)} of ${wholeNumber(target)} ${macro.unit}, ${where}`}
      className="block"
    >
      <span className="figures mb-1 flex items-baseline justify-between gap-1 text-sm">
        <span className="font-semibold">{exactNumber(target)}</span>
        <span
          className={!known ? 'font-bold text-ochre-text' : inside ? 'text-muted' : 'font-bold text-alert'}
        >
          {known ? signed(off) : '?'}
        </span>
      </span>
      <span className="relative block h-2.5 w-full rounded-full border border-steel bg-paper">
        <span
          className="absolute inset-y-0 border-x border-edge bg-band"
          style={{ left: `${50 - band}%`, width: `${2 * band}%` }}
        />
        <span
          className={`absolute top-1/2 size-2.5 -translate-1/2 rounded-full ${!known ? 'bg-ochre' : inside ? 'bg-ink' : 'bg-alert'}`}
          style={{ left: `${place}%` }}
        />
      </span>
    </span>
  );
}
