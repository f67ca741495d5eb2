import { day, exactGrams, slotName, weight, wholeNumber } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import { massUnit } from '~/lib/units';
import { usePrinting } from '~/lib/use-printing';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type Row, reasonWords } from '~/views/batch/plan/columns';
import { partsOf, placeWords } from '~/views/batch/plan/dishes';

const ROWS_PER_PAGE = 12;
/** More columns than these run off the page: the rest continue on a sheet of their own. */
const COLUMNS_PER_PAGE = 7;

/** The sheet that hangs over the scale: grams by container, large, twelve rows and seven components to a page. */
export function FillSheet({ plan }: { plan: Plan }) {
  const printing = usePrinting();
  if (!printing) return null;
  const pages = plan.dishes.flatMap((dish) => {
    const rows = plan.rows.filter((row) => row.count > 0 && row.dish_id === dish.id);
    const columns = parts(partsOf(plan, dish), COLUMNS_PER_PAGE);
    return parts(rows, ROWS_PER_PAGE).flatMap((page) =>
      columns.map((components, part) => ({ dish, page, components, part, of: columns.length })),
    );
  });
  return (
    <div data-testid="fill-sheet">
      {pages.map(({ dish, page, components, part, of }, number) => (
        <section
          key={`${page[0]?.id} ${part}`}
          className={number < pages.length - 1 ? 'break-after-page' : ''}
        >
          <p className="mb-2 flex justify-between text-sm">
            <span>
              <strong>{plan.batch.name}</strong>
              {plan.dishes.length > 1 ? `, ${dish.name}` : ''}, {day(plan.batch.cook_on)}. Tare after each
              component.
            </span>
            <span>
              sheet {number + 1} of {pages.length}
              {of > 1 ? `, components ${part + 1} of ${of}` : ''}
            </span>
          </p>
          <table className="w-full border-collapse">
            <thead>
              <tr className="border-b-2 border-ink align-bottom">
                <th scope="col" className="py-1 text-left">
                  Container
                </th>
                {components.map((component) => (
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
              {page.map((row) => (
                <tr key={row.id} className="break-inside-avoid border-b border-edge">
                  <th scope="row" className="py-2 text-left leading-tight">
                    <span className="text-lg">{row.client}</span>
                    <span className="figures"> ×{row.count}</span>
                    <span className="block text-sm font-normal">
                      {slotName(row.slot, row.day_type)}; {wholeNumber(row.amounts.protein_g)} P,{' '}
                      {wholeNumber(row.amounts.carbohydrate_g)} C, {wholeNumber(row.amounts.fat_g)} F
                    </span>
                  </th>
                  {components.map((component) => (
                    <td key={component.id} className="figures px-2 py-2 text-right align-top">
                      <FillFigure
                        cell={row.cells.find((one) => one.component_id === component.id)}
                        school={component.school}
                      />
                    </td>
                  ))}
                  <td className="figures py-2 text-right align-top text-lg">{exactGrams(row.total_g)}</td>
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

/** A list in parts of at most so many. */
const parts = <T,>(list: T[], size: number) =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, at) => list.slice(at * size, (at + 1) * size));

function FillFigure({ cell, school }: { cell: Row['cells'][number] | undefined; school: string }) {
  if (!cell) return null;
  if (cell.left_out.length) return <strong className="text-sm">NONE ({reasonWords(cell.left_out)})</strong>;
  if (cell.grams === 0) return <span>–</span>;
  return (
    <>
      <span className="text-3xl font-bold">
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
    </>
  );
}
