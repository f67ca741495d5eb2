import { MacroName } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { energy, exactWeight, oneDecimal, signed, slotName } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type Row, reasonWords } from '~/views/batch/plan/columns';
import { dishSummary, partsOf } from '~/views/batch/plan/dishes';

/** The plan to be read on a phone: container below container, nothing to the side. */
export function PlanCards({ plan, onRow }: { plan: Plan; onRow: (id: string) => void }) {
  return plan.dishes.map((dish) => (
    <section key={dish.id} aria-label={dish.name} className="mb-5">
      <h2 className="text-xl">{dish.name}</h2>
      <p className="mb-2 text-sm text-muted">{dishSummary(plan, dish)}</p>
      <ul className="space-y-3">
        {plan.rows
          .filter((row) => row.dish_id === dish.id && row.count > 0)
          .map((row) => (
            <li key={row.id} className="rounded-xl border border-steel bg-sheet p-3">
              <button
                type="button"
                onClick={() => onRow(row.id)}
                className="flex min-h-11 w-full items-baseline justify-between gap-2 text-left hover:underline"
              >
                <span>
                  <span className="block text-lg leading-tight font-semibold">{row.client}</span>
                  <span className="block text-sm text-muted">{slotName(row.slot, row.day_type)}</span>
                </span>
                <span className="figures whitespace-nowrap">×{row.count}</span>
              </button>
              <CardParts parts={partsOf(plan, dish)} row={row} />
              <CardMacros row={row} />
            </li>
          ))}
      </ul>
      {plan.rows.every((row) => row.dish_id !== dish.id || row.count === 0) ? (
        <p className="text-muted">No container of it yet.</p>
      ) : null}
    </section>
  ));
}

function CardParts({ parts, row }: { parts: ReturnType<typeof partsOf>; row: Row }) {
  return (
    <ul className="mt-1 border-t border-steel">
      {parts.map((part) => {
        const cell = row.cells.find((one) => one.component_id === part.id);
        if (!cell || (cell.grams === 0 && cell.left_out.length === 0)) return null;
        return (
          <li key={part.id} className="flex justify-between gap-3 py-0.5">
            <span>{part.name}</span>
            {cell.left_out.length ? (
              <strong className="text-alert">none ({reasonWords(cell.left_out)})</strong>
            ) : (
              <span className="figures whitespace-nowrap font-semibold">
                {cell.estimated ? '~' : ''}
                {cell.units === null
                  ? exactWeight(cell.grams)
                  : `${unitCount(cell.units)} ${unitWord(part.school, cell.units)}`}
              </span>
            )}
          </li>
        );
      })}
    </ul>
  );
}

function CardMacros({ row }: { row: Row }) {
  return (
    <p className="figures mt-1 flex flex-wrap gap-x-3 border-t border-steel pt-1 text-sm">
      {MACRO_KEYS.map((key) => {
        const miss = row.gauges.find((gauge) => gauge.nutrient === key)?.miss ?? 0;
        return (
          <span key={key} className={`whitespace-nowrap ${miss ? 'font-semibold text-alert' : ''}`}>
            {key === 'kcal' ? energy(row.amounts.kcal) : oneDecimal(row.amounts[key])} <MacroName of={key} />
            {miss ? ` ${signed(miss)}` : ''}
          </span>
        );
      })}
    </p>
  );
}
