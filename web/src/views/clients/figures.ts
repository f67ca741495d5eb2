import type { FigureKey } from '~/views/clients/draft';

/** How each figure of a target or day is named. */
export const FIGURES: Record<FigureKey, { label: string; unit: string }> = {
  protein_g: { label: 'Protein', unit: 'g' },
  carbohydrate_g: { label: 'Carbohydrate', unit: 'g' },
  fat_g: { label: 'Fat', unit: 'g' },
  kcal: { label: 'Energy, if aimed at', unit: 'kcal' },
  capacity_ml: { label: 'Container holds', unit: 'ml' },
  fibre_g: { label: 'Fibre, at least', unit: 'g' },
  saturated_g: { label: 'Saturated, at most', unit: 'g' },
  sodium_mg: { label: 'Sodium, at most', unit: 'mg' },
  capacity_g: { label: 'Container carries', unit: 'g' },
  plate_g: { label: 'Whole plate, in shares', unit: 'g' },
};
