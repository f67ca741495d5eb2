import { LIMITED, type LimitedKey } from '~/food/nutrients';
import type { FigureKey } from '~/views/clients/draft';

const LIMITS = Object.fromEntries(
  LIMITED.map(({ key, limit, unit }) => [key, { label: limit, unit }]),
) as Record<LimitedKey, { label: string; unit: string }>;

/** How each figure of a target or day is named. */
export const FIGURES: Record<FigureKey, { label: string; unit: string }> = {
  protein_g: { label: 'Protein', unit: 'g' },
  carbohydrate_g: { label: 'Carbohydrate', unit: 'g' },
  fat_g: { label: 'Fat', unit: 'g' },
  kcal: { label: 'Energy, if aimed at', unit: 'kcal' },
  capacity_ml: { label: 'Container holds', unit: 'ml' },
  ...LIMITS,
  capacity_g: { label: 'Container carries', unit: 'g' },
  plate_g: { label: 'Whole plate, in shares', unit: 'g' },
};
