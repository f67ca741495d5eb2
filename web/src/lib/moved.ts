import type { Schemas } from '~/api/client';

type Plan = Schemas['PlanView'];

/** Every figure of a plan by a key, as it is shown, so that two plans can be compared. */
function shownFigures(plan: Plan): Map<string, number> {
  const found = new Map<string, number>();
  for (const component of plan.components) {
    found.set(`${component.id}/cooked`, Math.round(component.cooked_g));
    found.set(`${component.id}/basis`, Math.round(component.basis_g));
    found.set(`${component.id}/needed`, Math.round(component.needed_g));
  }
  for (const dish of plan.dishes)
    for (const part of dish.parts)
      found.set(`${dish.id}/${part.component_id}/taken`, Math.round(part.needed_g));
  for (const row of plan.rows) {
    found.set(`${row.id}/count`, row.count);
    found.set(`${row.id}/total`, Math.round(row.total_g));
    for (const cell of row.cells)
      found.set(`${row.id}/${cell.component_id}`, Math.round(cell.grams * 10) / 10);
    for (const gauge of row.gauges) found.set(`${row.id}/${gauge.nutrient}`, Math.round(gauge.amount));
    if (!row.gauges.some((gauge) => gauge.nutrient === 'kcal')) {
      found.set(`${row.id}/kcal`, Math.round(row.amounts.kcal));
    }
  }
  return found;
}

/** The figures that differ, with what they were before. */
export function whatMoved(before: Plan | undefined, now: Plan): Map<string, number> {
  const moved = new Map<string, number>();
  if (!before) return moved;
  const old = shownFigures(before);
  for (const [key, value] of shownFigures(now)) {
    const was = old.get(key);
    if (was !== undefined && was !== value) moved.set(key, was);
  }
  return moved;
}
