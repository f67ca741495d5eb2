import { exactGrams, weight } from '~/lib/format';
import { massUnit } from '~/lib/units';
import type { Box, Place } from '~/views/batch/fill/sequence';

/** The container from the side, filling layer by layer, with running totals at the wall. */
export function Section({ box, at, net }: { box: Box; at: Place; net: number | null }) {
  const inside = box.parts.filter((part) => part.place === 'in the container' && part.grams > 0);
  const outside = box.parts.filter((part) => part.place !== 'in the container');
  const total = inside.reduce((sum, part) => sum + part.grams, 0);
  let running = 0;
  const layers = inside.map((part) => {
    running += part.grams;
    return { part, upTo: running };
  });
  return (
    <div className="flex h-full min-h-0 flex-col">
      <ol aria-label="This container, from the bottom" className="flex min-h-0 flex-1 flex-col-reverse">
        {layers.map(({ part, upTo }, place) => {
          const isNow = part.component_id === at.part;
          const share = isNow && !part.filled ? Math.min(Math.max((net ?? 0) / part.grams, 0), 1) : 0;
          return (
            <li
              key={part.component_id}
              className="grid min-h-6 grid-cols-[2.75rem_minmax(0,1fr)]"
              style={{ flexGrow: Math.max(part.grams / Math.max(total, 1), 0.04), flexBasis: 0 }}
            >
              <span aria-hidden className="figures pr-1 text-right text-xs leading-none text-muted">
                {exactGrams(upTo)}
              </span>
              <div
                className={`relative border-x-3 border-ink ${place === 0 ? 'rounded-b-xl border-b-3' : ''} ${
                  part.filled ? 'bg-steel' : ''
                }`}
              >
                <span aria-hidden className="absolute inset-x-0 top-0 border-t border-dashed border-edge" />
                {share > 0 ? (
                  <span
                    aria-hidden
                    className="absolute inset-x-0 bottom-0 bg-ochre/70"
                    style={{ height: `${100 * share}%` }}
                  />
                ) : null}
                <span className="absolute inset-x-2 top-1/2 flex -translate-y-1/2 items-baseline justify-between gap-2">
                  <span className={`min-w-0 leading-tight ${isNow ? 'font-bold' : ''}`}>{part.name}</span>
                  <span className="figures text-sm">
                    {part.filled?.is_left_out ? 'left out' : exactGrams(part.grams)}
                  </span>
                </span>
              </div>
            </li>
          );
        })}
      </ol>
      {outside.map((part) => (
        <p
          key={part.component_id}
          className={`mt-2 flex justify-between rounded-lg border px-2 py-1 ${part.filled ? 'border-steel bg-steel' : 'border-dashed border-edge'}`}
        >
          <span>
            {part.name} <span className="text-sm text-muted">in a tub</span>
          </span>
          <span className="figures">{exactGrams(part.grams)}</span>
        </p>
      ))}
      <p className="mt-2 text-sm text-muted">
        {box.capacity_ml
          ? `${exactGrams(box.capacity_ml)} ml, about ${Math.round(box.volume_ml)} full. `
          : ''}
        {weight(total)} in all; running total in {massUnit()} at the wall.
      </p>
      {box.overfull ? <p className="font-bold text-alert">Too small: {box.overfull}</p> : null}
    </div>
  );
}
