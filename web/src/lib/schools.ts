import type { Schemas } from '~/api/client';

export type School = Schemas['SetSchool']['school'];

/** How a component gets into the containers, with what the coach weighs and what is computed. */
export const SCHOOLS: { value: School; label: string; hint: string }[] = [
  { value: 'by component', label: 'By component', hint: 'Grams for each container, to meet its target.' },
  {
    value: 'pieces',
    label: 'Pieces',
    hint: 'Whole pieces for each container; a piece weighs the total ÷ pieces.',
  },
  { value: 'fixed measure', label: 'Fixed measure', hint: 'Scoops or ladles; weigh one of them once.' },
  { value: 'one pot', label: 'One pot', hint: 'Everything in the pot is mixed; macros move together.' },
  { value: 'equal split', label: 'Equal split', hint: 'The whole of it divided by the containers.' },
  {
    value: 'plate shares',
    label: 'Plate shares',
    hint: 'Its share of the whole plate; macros are shown, not solved.',
  },
  {
    value: 'built raw',
    label: 'Built raw',
    hint: 'What goes into one unit is weighed raw, as a wrap; whole units for each container, no yield.',
  },
  {
    value: 'by eye',
    label: 'By eye',
    hint: 'About so much, not weighed; it counts and is marked as an estimate.',
  },
];

export const schoolHint = (school: string) => SCHOOLS.find((one) => one.value === school)?.hint ?? '';

/** Where a part of a dish goes. */
export const PLACES: { value: Schemas['Place']; label: string }[] = [
  { value: 'in the container', label: 'In the container' },
  { value: 'beside', label: 'Beside it, in a tub' },
  { value: 'at eating', label: 'Added at eating' },
];

export const PARTS = [
  { value: '1', label: 'whole ones' },
  { value: '0.5', label: 'halves too' },
  { value: '0.25', label: 'quarters too' },
];

type Portioned = Pick<Schemas['PartView'], 'unit_is_g' | 'unit_part'>;

/** Grams of one piece, scoop or built unit; null where the component is not counted. */
export const unitOf = (part: Portioned | undefined): number | null => part?.unit_is_g ?? null;

/** Grams that one step of a part is: a piece, a scoop or a part of it; the scale’s step for the others. */
export function stepOf(part: Portioned | undefined, scaleStep: number): number {
  const unit = unitOf(part);
  return unit === null ? scaleStep : unit * (part?.unit_part ?? 1);
}

export const unitCount = (units: number) => Math.round(units * 100) / 100;

/** "piece", "scoops": what is counted. */
export function unitWord(school: string | undefined, units: number): string {
  const word = school === 'pieces' ? 'piece' : school === 'built raw' ? 'unit' : 'scoop';
  return unitCount(units) === 1 ? word : `${word}s`;
}
