import type { Change, Plan } from '~/views/batch/frame/use-plan';

/** A figure as it was wished. A sum stays the text it was typed as, which the server reads. */
const wished = (value: number | string | null | undefined) => (value ?? null) as number | null;
const known = (value: number | string) => value as number;

/**
 * The plan with what was set and is not made yet: what the next wish builds on, so that of two figures set while the
 * server is away neither is lost. What follows from it is the server's to compute and stays as it was.
 */
export const withWaiting = (plan: Plan, changes: readonly Change[]): Plan =>
  changes.reduce((now, change) => withChange(now, change), plan);

function withChange(plan: Plan, change: Change): Plan {
  switch (change.kind) {
    case 'pin':
      return ofRow(plan, change.row_id, (row) => ({
        ...row,
        cells: row.cells.map((cell) =>
          cell.component_id === change.component_id
            ? { ...cell, grams: wished(change.grams) ?? cell.grams, pinned_g: wished(change.grams) }
            : cell,
        ),
      }));
    case 'containers':
      return ofRow(plan, change.row_id, (row) => ({
        ...row,
        count: known(change.count),
        capacity_ml: wished(change.capacity_ml),
        capacity_g: wished(change.capacity_g),
        plate_g: wished(change.plate_g),
        rank: known(change.rank ?? 0),
        helping: known(change.helping ?? 1),
      }));
    case 'target': {
      const { kind: _, row_id, ...aims } = change;
      return ofRow(plan, row_id, (row) => ({ ...row, target: { ...row.target, ...figures(aims) } }));
    }
    case 'bounds':
      return ofPart(plan, change, (part) => ({
        ...part,
        minimum_g: known(change.minimum_g),
        maximum_g: wished(change.maximum_g),
      }));
    case 'place':
      return ofPart(plan, change, (part) => ({
        ...part,
        place: change.place,
        tub_ml: wished(change.tub_ml),
        takes_g: wished(change.takes_g),
        group: change.group ?? null,
      }));
    case 'school': {
      const pieces = wished(change.pieces);
      const counted = ofComponent(plan, change.component_id, (component) => ({ ...component, pieces }));
      return ofPart(counted, change, (part) => ({
        ...part,
        school: change.school ?? part.school,
        unit_g: wished(change.unit_g),
        unit_part: known(change.unit_part),
        plate_share: known(change.plate_share),
        eye_g: known(change.eye_g),
      }));
    }
    case 'dish':
      return {
        ...plan,
        dishes: plan.dishes.map((dish) =>
          dish.id === change.dish_id
            ? {
                ...dish,
                name: change.name,
                groups: Object.entries(change.groups ?? {}).map(([name, takes]) => ({
                  name,
                  takes: known(takes),
                })),
              }
            : dish,
        ),
      };
    case 'choice':
      return ofRow(plan, change.row_id, (row) => ({ ...row, chosen: change.chosen }));
    case 'poured':
      return ofComponent(plan, change.component_id, (component) => ({
        ...component,
        poured_fat_g: known(change.poured_fat_g),
      }));
    case 'raw':
      return ofComponent(plan, change.component_id, (component) => ({
        ...component,
        raw_fixed: change.fixed,
      }));
    case 'packed':
      return {
        ...plan,
        batch: { ...plan.batch, packed_at: change.packed ? (plan.batch.packed_at ?? '') : null },
      };
    default:
      return plan;
  }
}

const figures = (aims: Record<string, number | string | null | undefined>) =>
  Object.fromEntries(Object.entries(aims).map(([key, value]) => [key, wished(value)]));

const ofRow = (plan: Plan, id: string, change: (row: Plan['rows'][number]) => Plan['rows'][number]) => ({
  ...plan,
  rows: plan.rows.map((row) => (row.id === id ? change(row) : row)),
});

type PartView = Plan['dishes'][number]['parts'][number];

/** A component in one dish; in all that have it where none is named. */
const ofPart = (
  plan: Plan,
  { component_id, dish_id }: { component_id: string; dish_id?: string | null },
  change: (part: PartView) => PartView,
) => ({
  ...plan,
  dishes: plan.dishes.map((dish) => ({
    ...dish,
    parts: dish.parts.map((part) =>
      part.component_id === component_id && (!dish_id || dish.id === dish_id) ? change(part) : part,
    ),
  })),
});

const ofComponent = (
  plan: Plan,
  id: string,
  change: (component: Plan['components'][number]) => Plan['components'][number],
) => ({
  ...plan,
  components: plan.components.map((one) => (one.id === id ? change(one) : one)),
});
