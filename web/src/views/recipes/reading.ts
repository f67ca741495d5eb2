import type { Schemas } from '~/api/client';
import { plural } from '~/lib/format';
import { PARTS } from '~/lib/schools';
import { massUnit, temperatureUnit } from '~/lib/units';
import type { ComponentDraft, RecipeDraft, StepDraft } from '~/views/recipes/draft';

/** A recipe in words, from what is typed in its fields. */

const told = (words: (string | false | undefined)[]) => words.filter((one): one is string => Boolean(one));

/** "serves 8, a container takes 1 grain, 2 vegetables" */
export const recipeWords = ({ serves, groups, components }: RecipeDraft) =>
  told([
    serves && `serves ${serves}`,
    plural(components.length, 'component'),
    groups && `a container takes ${groups}`,
  ]).join(', ');

/** How it is cooked, and what it is on the plate. */
export const componentWords = (one: ComponentDraft) =>
  told([
    one.method === 'none' ? 'not cooked' : one.method,
    one.role,
    one.lid && `lid ${one.lid}`,
    one.cook_min && `${one.cook_min} min on the heat`,
    one.pan_capacity_g && `the pan holds ${one.pan_capacity_g} ${massUnit()} raw`,
    one.whole_pans && 'whole pans only',
    Number(one.poured_fat_g) > 0 && `${one.poured_fat_g} ${massUnit()} fat poured off`,
    one.yield_expected && `own yield × ${one.yield_expected}`,
    one.packed_raw && `packed raw, to be cooked later${one.kit_text ? `: ${one.kit_text}` : ''}`,
  ]).join('; ');

function bounds({ minimum_g: least, maximum_g: most }: ComponentDraft) {
  if (Number(least) > 0)
    return most ? `${least} to ${most} ${massUnit()}` : `at least ${least} ${massUnit()}`;
  return most && `at most ${most} ${massUnit()}`;
}

/** How it gets into the containers beside what its school does: its unit, its bounds, its place. */
export function portionWords(one: ComponentDraft): string {
  if (!one.served) return 'Goes into no container by itself, only into other components.';
  const counted = one.school === 'pieces' || one.school === 'fixed measure';
  const unit = told([
    one.school === 'pieces' && one.pieces && `${one.pieces} pieces`,
    one.school === 'fixed measure' && one.unit_g && `one holds ${one.unit_g} ${massUnit()}`,
    counted && one.unit_part !== '1' && PARTS.find(({ value }) => value === one.unit_part)?.label,
    one.school === 'plate shares' && `its share is ${one.plate_share}`,
    one.school === 'by eye' && one.eye_g && `about ${one.eye_g} ${massUnit()}`,
    bounds(one),
    one.place === 'beside' && `in a tub${one.tub_ml ? ` of ${one.tub_ml} ml` : ''} beside the container`,
    one.place === 'at eating' && 'added at eating',
    one.group && `one of the group “${one.group}”`,
  ]).join(', ');
  return unit && `${unit.charAt(0).toUpperCase()}${unit.slice(1)}.`;
}

export const GROWTHS: { value: Schemas['Growth']; label: string }[] = [
  { value: 'amount', label: 'in proportion' },
  { value: 'fixed', label: 'not at all' },
  { value: 'per-load', label: 'load by load' },
  { value: 'mild', label: 'a little' },
];

/** Times, temperature and equipment of a step; `of` is the name of its component. */
export const stepWords = (step: StepDraft, of = '') =>
  told([
    of,
    step.hands_on_min && `${step.hands_on_min} min hands on`,
    step.unattended_min && `${step.unattended_min} min unattended`,
    step.every_min && `a look every ${step.every_min} min`,
    step.temperature_c && `${step.temperature_c} °${temperatureUnit()}`,
    step.equipment && `on: ${step.equipment}`,
    step.load_g && `${step.load_g} ${massUnit()} at once`,
    step.growth && `for more: ${GROWTHS.find(({ value }) => value === step.growth)?.label ?? step.growth}`,
    step.lead_min &&
      (step.lead_most_min
        ? `${step.lead_min} to ${step.lead_most_min} min ahead`
        : `${step.lead_min} min ahead`),
    step.core_c && `${step.core_c} °${temperatureUnit()} inside`,
    step.done_when && `done when ${step.done_when}`,
  ]).join(', ');
