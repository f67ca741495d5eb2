import { plural } from '~/lib/format';
import type { Plan } from '~/views/batch/frame/use-plan';

export type Dish = Plan['dishes'][number];
export type Component = Plan['components'][number];

/** A component as one dish has it: what the pot is, and how the dish portions it. `taken_g` is what the dish takes. */
export type DishPart = Component &
  Omit<Dish['parts'][number], 'needed_g'> & { dish_id: string; taken_g: number };

export const dishOf = (plan: Plan, row: { dish_id: string }) =>
  plan.dishes.find((dish) => dish.id === row.dish_id);

/** The parts of a dish in order. */
export function partsOf(plan: Plan, dish: Dish | undefined): DishPart[] {
  if (!dish) return [];
  return dish.parts.flatMap(({ needed_g: taken_g, ...part }) => {
    const component = plan.components.find((one) => one.id === part.component_id);
    return component ? [{ ...component, ...part, dish_id: dish.id, taken_g }] : [];
  });
}

/** A component as the dish of a row has it. */
export const partOf = (plan: Plan, row: { dish_id: string }, componentId: string) =>
  partsOf(plan, dishOf(plan, row)).find((part) => part.id === componentId);

/** Whether it is not said yet what goes into these containers of a group of their dish. */
export const hasOpenGroup = (plan: Plan, row: { dish_id: string; chosen: string[] }) => {
  const parts = partsOf(plan, dishOf(plan, row)).filter((part) => row.chosen.includes(part.id));
  return (dishOf(plan, row)?.groups ?? []).some(
    (group) => parts.filter((part) => part.group === group.name).length !== group.takes,
  );
};

/** The dishes that have a component. */
export const dishesWith = (plan: Plan, componentId: string) =>
  plan.dishes.filter((dish) => dish.parts.some((part) => part.component_id === componentId));

/** What stands over the columns of a dish: a part, or a group with a column for each part that a container takes. */
export type Head =
  | { kind: 'part'; part: DishPart; span: 1 }
  | { kind: 'group'; name: string; members: DishPart[]; span: number };

/** The heads of a dish: groups stand where the first of their parts does. */
export function headsOf(plan: Plan, dish: Dish | undefined): Head[] {
  const parts = partsOf(plan, dish);
  const seen = new Set<string>();
  return parts.flatMap((part): Head[] => {
    const { group: name } = part;
    if (name === null) return [{ kind: 'part', part, span: 1 }];
    if (seen.has(name)) return [];
    seen.add(name);
    const members = parts.filter((one) => one.group === name);
    const takes = dish?.groups.find((group) => group.name === name)?.takes ?? 1;
    return [{ kind: 'group', name, members, span: takes }];
  });
}

export const columnCount = (heads: Head[]) => heads.reduce((sum, head) => sum + head.span, 0);

/** The most columns that a dish of the plan has. */
export const widest = (plan: Plan) =>
  Math.max(0, ...plan.dishes.map((dish) => columnCount(headsOf(plan, dish))));

/** Where a part goes, in a few words; nothing where it goes into the container like most. */
export const placeWords = (part: { place: string; tub_ml: number | null }) =>
  part.place === 'beside'
    ? `in a tub${part.tub_ml === null ? '' : ` of ${part.tub_ml} ml`}`
    : part.place === 'at eating'
      ? 'added at eating'
      : '';

export const groupWords = (dish: Dish) =>
  dish.groups.map((group) => `${group.takes} of ${group.name}`).join(', ');

const containersOfDish = (plan: Plan, dish: Dish) =>
  plan.rows.reduce((sum, row) => sum + (row.dish_id === dish.id ? row.count : 0), 0);

export const dishNames = (dishes: { name: string }[]) => dishes.map((dish) => dish.name).join(', ');

/** "24 containers": what of a plan is in a dish. */
export const dishSummary = (plan: Plan, dish: Dish) => plural(containersOfDish(plan, dish), 'container');
