import { between, day, exactGrams, slotName, weight, wholeNumber } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import { massUnit } from '~/lib/units';
import { usePrinting } from '~/lib/use-media';
import type { BoxPart, Filling } from '~/views/batch/fill/sequence';
import { useCostOf } from '~/views/batch/frame/costs';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type Row, reasonWords } from '~/views/batch/plan/columns';
import { type DishPart, partsOf, placeWords } from '~/views/batch/plan/dishes';

const BOXES_PER_PAGE = 8;
/** More columns than these run off the page: the rest continue on a sheet of their own. */
const COLUMNS_PER_PAGE = 6;

/** One container of a row: the second of five. */
interface Box {
  row: Row;
  number: number;
}

/**
 * The sheet that hangs over the scale: a line for each box to tick, those of people who must not eat something first.
 * For each component its grams, large; what the scale then shows where nobody tares; between which grams filling may
 * stop; and room for what was filled. What was filled by now stands in that room.
 */
export function FillSheet({ plan, filling }: { plan: Plan; filling?: Filling }) {
  const printing = usePrinting();
  if (!printing) return null;
  const pages = plan.dishes.flatMap((dish) => {
    const boxes = boxesOf(plan.rows.filter((row) => row.dish_id === dish.id));
    const components = partsOf(plan, dish);
    const columns = parts(components, COLUMNS_PER_PAGE);
    return parts(boxes, BOXES_PER_PAGE).flatMap((page) =>
      columns.map((shown, part) => ({ dish, page, components, shown, part, of: columns.length })),
    );
  });
  return (
    <div data-testid="fill-sheet">
      {pages.map(({ dish, page, components, shown, part, of }, number) => (
        <section
          key={`${page[0]?.row.id} ${page[0]?.number} ${part}`}
          className={number < pages.length - 1 ? 'break-after-page' : ''}
        >
          <p className="mb-2 flex justify-between gap-4 text-sm">
            <span>
              <strong>{plan.batch.name}</strong>
              {plan.dishes.length > 1 ? `, ${dish.name}` : ''}, {day(plan.batch.cook_on)}. Large: tare before
              each component. Small: what the scale shows where you do not, and between which {massUnit()} you
              may stop.
            </span>
            <span className="whitespace-nowrap">
              sheet {number + 1} of {pages.length}
              {of > 1 ? `, components ${part + 1} of ${of}` : ''}
            </span>
          </p>
          <table className="w-full border-collapse">
            <thead>
              <tr className="border-b-2 border-ink align-bottom">
                <th scope="col" className="py-1 text-left">
                  Box
                </th>
                {shown.map((component) => (
                  <th key={component.id} scope="col" className="px-2 py-1 text-right leading-tight">
                    {component.name}
                    {component.place === 'in the container' ? null : (
                      <span className="block text-xs font-normal">{placeWords(component)}</span>
                    )}
                    <span className="block text-xs font-normal">
                      {component.weighing
                        ? `${weight(component.cooked_g)} weighed`
                        : `about ${weight(component.cooked_g)}`}
                    </span>
                  </th>
                ))}
                <th scope="col" className="py-1 text-right">
                  Total {massUnit()}
                </th>
              </tr>
            </thead>
            <tbody>
              {page.map(({ row, number: box }) => (
                <tr key={`${row.id} ${box}`} className="break-inside-avoid border-b border-edge">
                  <th scope="row" className="py-1.5 text-left align-top leading-tight">
                    <span className="flex gap-2">
                      <span aria-hidden className="mt-1 size-4 shrink-0 border-2 border-ink" />
                      <span>
                        {row.client}
                        <span className="figures whitespace-nowrap font-normal">
                          {' '}
                          {box} of {row.count}
                        </span>
                        <span className="block text-xs font-normal">
                          {slotName(row.slot, row.day_type)}; {wholeNumber(row.amounts.protein_g)} P,{' '}
                          {wholeNumber(row.amounts.carbohydrate_g)} C, {wholeNumber(row.amounts.fat_g)} F
                        </span>
                      </span>
                    </span>
                  </th>
                  {shown.map((component) => (
                    <td key={component.id} className="figures px-2 py-1.5 text-right align-top">
                      <FillFigure
                        filled={filledOf(filling, row, box, component.id)}
                        cell={cellOf(row, component.id)}
                        school={component.school}
                        runningG={
                          component.place === 'in the container'
                            ? runningTotal(row, components, component.id)
                            : null
                        }
                      />
                    </td>
                  ))}
                  <td className="figures py-1.5 text-right align-top text-lg">
                    {exactGrams(row.total_g)}
                    <RowCost id={row.id} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ))}
      {plan.cautions.map((caution) => (
        <p key={caution} className="mt-3 text-sm font-semibold">
          {caution}
        </p>
      ))}
    </div>
  );
}

/** What one container costs, where that is shown. */
function RowCost({ id }: { id: string }) {
  const cost = useCostOf(id);
  return cost ? <span className="block text-xs">{cost}</span> : null;
}

/** Who must not eat something is filled first, while tools and hands are clean. */
function boxesOf(rows: Row[]): Box[] {
  const careful = (row: Row) => row.cells.some((cell) => cell.left_out.length > 0);
  return [...rows.filter(careful), ...rows.filter((row) => !careful(row))].flatMap((row) =>
    Array.from({ length: row.count }, (_, at) => ({ row, number: at + 1 })),
  );
}

const cellOf = (row: Row, componentId: string) => row.cells.find((one) => one.component_id === componentId);

/** What the scale shows in grams once this component is in, where nobody tares in between. */
function runningTotal(row: Row, components: DishPart[], componentId: string): number {
  const upTo = components.slice(0, components.findIndex((one) => one.id === componentId) + 1);
  return upTo
    .filter((one) => one.place === 'in the container')
    .reduce((sum, one) => sum + (cellOf(row, one.id)?.grams ?? 0), 0);
}

/** A list in parts of at most so many. */
const parts = <T,>(list: T[], size: number) =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, at) => list.slice(at * size, (at + 1) * size));

/** What was noted of a part of one container. */
const filledOf = (filling: Filling | undefined, row: Row, number: number, componentId: string) =>
  filling?.containers
    .find((one) => one.row_id === row.id && one.number === number)
    ?.parts.find((part) => part.component_ids.includes(componentId))?.filled ?? null;

function FillFigure({
  filled,
  cell,
  school,
  runningG,
}: {
  filled: BoxPart['filled'];
  cell: Row['cells'][number] | undefined;
  school: string;
  runningG: number | null;
}) {
  if (!cell) return null;
  if (cell.left_out.length) return <strong className="text-sm">NONE ({reasonWords(cell.left_out)})</strong>;
  if (cell.grams === 0) return <span>–</span>;
  return (
    <>
      <span className="text-3xl font-bold leading-none">
        {cell.estimated ? '~' : ''}
        {cell.units === null ? exactGrams(cell.grams) : unitCount(cell.units)}
      </span>
      {cell.units === null ? null : (
        <span className="block text-xs">
          {unitWord(school, cell.units)}, {exactGrams(cell.grams)} {massUnit()}
        </span>
      )}
      {cell.mixed_g === null ? null : (
        <span className="block text-xs">
          of {exactGrams(cell.mixed_g)} {massUnit()} mixed
        </span>
      )}
      <span className="block text-xs leading-tight">
        {runningG === null ? null : <>shows {exactGrams(runningG)}</>}
        {cell.units === null && cell.stop_low_g !== null && cell.stop_high_g !== null ? (
          <span className="block">{between(cell.stop_low_g, cell.grams, cell.stop_high_g)}</span>
        ) : null}
      </span>
      {filled ? (
        <span className="mt-1 block border-b border-ink text-base font-bold">
          {filled.is_left_out
            ? 'left out'
            : `${filled.unsure_g ? '~' : ''}${exactGrams(filled.grams)} filled`}
        </span>
      ) : (
        <span className="mt-4 block border-b border-dotted border-ink" title="Filled" />
      )}
    </>
  );
}
