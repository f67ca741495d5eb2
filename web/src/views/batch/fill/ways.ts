import type { Schemas } from '~/api/client';
import { exactNumber, weight } from '~/lib/format';
import type { BoxPart } from '~/views/batch/fill/sequence';

export type Way = NonNullable<Schemas['FillFactInput']['way']>;

/** How one finds out how much went in. */
export const WAYS: Record<Way, string> = {
  'tare after each': 'tare after each part',
  'running total': 'running total, without tare',
  'minus reading': 'minus reading: the bulk stands on the scale',
  counted: 'counted',
  scoops: 'scoops',
  cups: 'cups',
  'by eye': 'by eye',
  typed: 'typed',
};

/** How a part is measured where nobody has chosen otherwise. */
export function usualWay(part: BoxPart): Way {
  if (part.is_by_eye) return 'by eye';
  // What is built raw is built on the scale, ingredient by ingredient, though the plan counts units.
  if (part.unit_g === null || part.school === 'built raw') return 'tare after each';
  return part.school === 'fixed measure' ? 'scoops' : 'counted';
}

/** Whether it is counted instead of weighed. */
export const isCounted = (way: Way) => way === 'counted' || way === 'scoops' || way === 'cups';

/** Grams of one of what is counted: a scoop as it was weighed here, a cup by its bulk, or what the plan takes one for. */
export const oneOf = (way: Way, part: BoxPart, scoopG: number | null): number | null =>
  way === 'cups' ? part.cup_g : way === 'scoops' ? (scoopG ?? part.unit_g) : part.unit_g;

/** The usual share by which what was not weighed may be off: a rule of thumb, told as assumed. */
export const UNSURE: Partial<Record<Way, string>> = {
  'by eye': '± 15 %, assumed',
  scoops: '± 10 %, assumed',
  cups: '± 10 %, assumed',
};

/** Whether a part can be measured so: what is counted needs the weight of one. */
export const canMeasure = (way: Way, part: BoxPart, scoopG: number | null) =>
  !isCounted(way) || oneOf(way, part, scoopG) !== null;

/** Half a cup can be told; a piece or a scoop is divided as the plan divides it. */
export const countStep = (way: Way, part: BoxPart) => (way === 'cups' ? 0.5 : part.unit_part);

/** The count that comes nearest to what is wanted. */
export const nearestCount = (way: Way, part: BoxPart, wanted: number) =>
  Math.round(wanted / countStep(way, part)) * countStep(way, part);

const NOUNS: Partial<Record<Way, string>> = { scoops: 'scoop', cups: 'cup' };

export const countWords = (way: Way, count: number, one: number) =>
  `${exactNumber(count)} ${NOUNS[way] ?? 'piece'}${count === 1 ? '' : 's'} of ${weight(one)}`;
