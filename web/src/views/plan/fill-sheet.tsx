import { day, exactGrams, slotName, weight, wholeNumber } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import { massUnit } from '~/lib/units';
import { usePrinting } from '~/lib/use-printing';
import type { Row } from '~/views/plan/columns';
import type { Plan } from '~/views/plan/use-plan';

const ROWS_PER_PAGE = 12;

/** The sheet that hangs over the scale: grams by container, large, twelve rows to a page. Only printed. */
export function FillSheet({ plan }: { plan: Plan }) {
  const printing = usePrinting();
  if (!printing) return null;
  const rows = plan.rows.filter((row) => row.count > 0);
  const pages = Array.from({ length: Math.ceil(rows.length / ROWS_PER_PAGE) }, (_, page) =>
    rows.slice(page * ROWS_PER_PAGE, (page + 1) * ROWS_PER_PAGE),
  );
  return (
    <div data-testid="fill-sheet">
      {pages.map((page, number) => (
        <section key={page[0]?.id} className={number < pages.length - 1 ? 'break-after-page' : ''}>
          <p className="mb-2 flex justify-between text-sm">
            <span>
              <strong>{plan.batch.name}</strong>, {day(plan.batch.cook_on)}. Tare after each component.
            </span>
            <span>
              sheet {number + 1} of {pages.length}
            </span>
          </p>
          <table className="w-full border-collapse">
            <thead>
              <tr className="border-b-2 border-ink align-bottom">
                <th scope="col" className="py-1 text-left">
                  Container
                </th>
                {plan.components.map((component) => (
                  <th key={component.id} scope="col" className="px-2 py-1 text-right leading-tight">
                    {component.name}
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
                  {row.cells.map((cell, place) => (
                    <td key={cell.component_id} className="figures px-2 py-2 text-right align-top">
                      <FillFigure cell={cell} school={plan.components[place]?.school} />
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

function FillFigure({ cell, school }: { cell: Row['cells'][number]; school: string | undefined }) {
  if (cell.left_out.length) return <strong className="text-sm">NONE ({cell.left_out.join(', ')})</strong>;
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
