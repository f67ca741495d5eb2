import {
  type Box,
  type Cell,
  type Filling,
  isToCome,
  type Place,
  sameBox,
} from '~/views/batch/fill/sequence';

/** The row of containers on the bench: a touch goes to one of them. */
export function RowOfBoxes({
  filling,
  cells,
  place,
  onGo,
}: {
  filling: Filling;
  cells: Cell[];
  place: Place;
  onGo: (cell: Cell) => void;
}) {
  const boxes = [...new Map(cells.map(({ box }) => [`${box.row_id} ${box.number}`, box])).values()];
  return (
    <nav aria-label="Containers" className="overflow-x-auto border-t border-steel bg-bench">
      <ol className="flex gap-1 p-2">
        {boxes.map((box) => {
          const isHere = sameBox({ row: box.row_id, number: box.number, part: '' }, place);
          return (
            <li key={`${box.row_id} ${box.number}`}>
              <button
                type="button"
                aria-current={isHere ? 'step' : undefined}
                aria-label={`${box.client}, ${box.slot}, ${box.number} of ${box.of}: ${stateWords(box)}`}
                onClick={() => {
                  const own = cells.filter((cell) => cell.box === box);
                  const to = own.find(isToCome) ?? own[0];
                  if (to) onGo(to);
                }}
                className={`min-h-16 min-w-16 rounded-b-lg border-x-2 border-b-2 px-2 text-left text-sm leading-tight ${
                  isHere
                    ? 'border-ink bg-sheet ring-3 ring-ochre'
                    : box.is_closed
                      ? 'border-ink bg-steel'
                      : box.is_in_bulk
                        ? 'border-dashed border-edge bg-bench text-muted'
                        : 'border-edge bg-sheet'
                }`}
              >
                <span className="block max-w-24 truncate font-semibold">{box.client.split(' ')[0]}</span>
                <span className="figures block">
                  {box.number}/{box.of}
                  {box.is_closed ? ' ✓' : ''}
                  {box.is_in_bulk ? ' later' : ''}
                  {box.missed.length ? <span className="font-bold text-alert"> !</span> : null}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      <p className="sr-only" role="status">
        {filling.containers.filter((box) => box.is_closed).length} of {filling.containers.length} containers
        are closed
      </p>
    </nav>
  );
}

const stateWords = (box: Box) =>
  box.is_closed
    ? 'closed'
    : box.is_in_bulk
      ? 'another day'
      : `${box.parts.filter((part) => part.filled).length} of ${box.parts.length} parts in`;
