import type { Schemas } from '~/api/client';
import { day, dayAndYear, exactWeight, plural, weight } from '~/lib/format';

type Lot = Schemas['LotView'];

export const PLACES: Record<Schemas['Keeping'], string> = {
  fridge: 'fridge',
  freezer: 'freezer',
  cupboard: 'cupboard',
};

/** "2 × 240 g", "1 of 240 g and 100 g", or the grams where it is in no packs. */
export function lotWords({ grams, pack_g: pack }: Pick<Lot, 'grams' | 'pack_g'>) {
  if (pack === null) return weight(grams);
  const whole = Math.floor(grams / pack + 1e-6);
  const rest = grams - whole * pack;
  if (whole === 0) return weight(grams);
  if (rest < 0.05) return `${whole} × ${exactWeight(pack)}`;
  return `${whole} × ${exactWeight(pack)} and ${weight(rest)}`;
}

/** From here on the year is told too. */
const FAR_DAYS = 60;

/** Until when it keeps: the day, and how near it is. */
export function keepsWords({ use_by: useBy, days_left: left }: Pick<Lot, 'use_by' | 'days_left'>) {
  if (useBy === null || left === null) return 'no day written down';
  if (left < 0) return `past its day, ${day(useBy)}`;
  if (left === 0) return `today, ${day(useBy)}`;
  if (left <= 5) return `${plural(left, 'day')}, ${day(useBy)}`;
  return left <= FAR_DAYS ? day(useBy) : dayAndYear(useBy);
}
