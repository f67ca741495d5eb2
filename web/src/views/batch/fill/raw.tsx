import { exactGrams } from '~/lib/format';
import type { BoxPart } from '~/views/batch/fill/sequence';

type Line = BoxPart['lines'][number];

/** An ingredient is in once less than this share of it lacks, or a step of the scale. */
const NEAR_SHARE = 0.05;

/** The ingredient that goes in next of what is built raw, with so much of all on the scale; null when all are in. */
export const lineAt = (lines: readonly Line[], total: number, step: number): Line | null =>
  lines.find((line) => total < line.up_to_g - Math.max(step, NEAR_SHARE * line.grams)) ?? null;

/** A unit that is built raw, ingredient by ingredient, and cooked before the next one. */
export function RawLines({ part, now }: { part: BoxPart; now: Line | null }) {
  if (part.lines.length < 2) return null;
  const at = now ? part.lines.indexOf(now) : part.lines.length;
  return (
    <section aria-labelledby="raw">
      <h2 id="raw" className="text-base">
        Its ingredients
      </h2>
      <ol>
        {part.lines.map((line, place) => (
          <li
            key={`${line.name} ${line.up_to_g}`}
            aria-current={line === now ? 'step' : undefined}
            className={`flex justify-between gap-3 border-t border-steel py-0.5 ${line === now ? 'font-bold' : place < at ? 'text-muted' : ''}`}
          >
            <span>
              {line.name}
              {place < at && !part.filled ? ' ✓' : ''}
            </span>
            <span className="figures text-right">
              {exactGrams(line.grams)}
              <span className="block text-sm text-muted">up to {exactGrams(line.up_to_g)}</span>
            </span>
          </li>
        ))}
      </ol>
      {part.cooked_by === 'none' ? null : (
        <p className="text-sm text-muted">Then it is {part.cooked_by}, before the next one is built.</p>
      )}
    </section>
  );
}
