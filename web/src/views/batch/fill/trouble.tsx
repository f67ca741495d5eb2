import type { Schemas } from '~/api/client';
import { exactWeight, weight } from '~/lib/format';
import { Button } from '~/parts/button';
import type { Box, BoxPart, Cell } from '~/views/batch/fill/sequence';

/** A miss that the rest of the container cannot make good, and what can be done about it. */
export function Missed({
  box,
  onMend,
  onEven,
  onLeave,
}: {
  box: Box;
  /** It stays as it is: this is not said again. */
  onLeave: () => void;
  onMend: (mend: Schemas['FillMendView']) => void;
  onEven: () => void;
}) {
  if (box.missed.length === 0) return null;
  return (
    <section
      role="alert"
      className="flex flex-wrap items-center gap-2 rounded-lg border border-l-4 border-steel border-l-alert bg-sheet px-3 py-2"
    >
      <p className="min-w-60 flex-1">
        <b>
          {box.client}, {box.number} of {box.of}: {box.missed.join(', ')}.
        </b>{' '}
        The rest of it cannot make that good.
      </p>
      {box.mends.map((mend) => (
        <Button key={mend.component_id} className="min-h-16" onClick={() => onMend(mend)}>
          {mend.words}
        </Button>
      ))}
      {box.others_open ? (
        <Button className="min-h-16" onClick={onEven}>
          Even it out over {box.others_open === 1 ? '1 other' : `${box.others_open} others`}
        </Button>
      ) : null}
      <Button className="min-h-16" onClick={onLeave}>
        Leave it so
      </Button>
    </section>
  );
}

/** Two notes of one part that did not know of each other. */
export function NotedTwice({
  cells,
  onDecide,
}: {
  cells: Cell[];
  onDecide: (cell: Cell, grams: number) => void;
}) {
  const twice = cells.filter(({ part }) => part.others.length > 0);
  if (twice.length === 0) return null;
  return (
    <section
      role="alert"
      className="space-y-2 rounded-lg border border-l-4 border-steel border-l-alert bg-sheet p-3"
    >
      {twice.map((cell) => (
        <div key={`${cell.box.row_id} ${cell.box.number} ${cell.part.component_id}`}>
          <p className="mb-2">
            <b>
              {cell.part.name}, {cell.box.client} {cell.box.number} of {cell.box.of}
            </b>{' '}
            was noted {cell.part.others.length + 1} times:{' '}
            {notes(cell.part)
              .map((one) => `${exactWeight(one.grams)} by ${one.made_by}`)
              .join(', ')}
            . Which is in it?
          </p>
          <div className="flex flex-wrap gap-2">
            {notes(cell.part).map((one) => (
              <Button key={one.fact_id} className="min-h-16" onClick={() => onDecide(cell, one.grams)}>
                {weight(one.grams)} is right
              </Button>
            ))}
            <Button className="min-h-16" onClick={() => onDecide(cell, total(cell.part))}>
              All of it, {weight(total(cell.part))}
            </Button>
          </div>
        </div>
      ))}
    </section>
  );
}

const notes = (part: BoxPart) => [...part.others, ...(part.filled ? [part.filled] : [])];
const total = (part: BoxPart) => notes(part).reduce((sum, one) => sum + one.grams, 0);
