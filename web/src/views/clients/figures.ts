import { MACROS } from '~/parts/macros';
import type { FigureKey } from '~/views/clients/draft';

/** How each figure of a target or day is named. */
export const FIGURES: Record<FigureKey, { label: string; unit: string; text: string }> = {
  protein_g: { label: 'Protein', unit: 'g', text: MACROS.protein_g.text },
  carbohydrate_g: { label: 'Carbohydrate', unit: 'g', text: MACROS.carbohydrate_g.text },
  fat_g: { label: 'Fat', unit: 'g', text: MACROS.fat_g.text },
  kcal: { label: 'Energy, if aimed at', unit: 'kcal', text: MACROS.kcal.text },
  capacity_ml: { label: 'Container holds', unit: 'ml', text: 'text-muted' },
  fibre_g: { label: 'Fibre, at least', unit: 'g', text: 'text-muted' },
  saturated_g: { label: 'Saturated, at most', unit: 'g', text: 'text-muted' },
  sodium_mg: { label: 'Sodium, at most', unit: 'mg', text: 'text-muted' },
  capacity_g: { label: 'Container carries', unit: 'g', text: 'text-muted' },
  plate_g: { label: 'Whole plate, in shares', unit: 'g', text: 'text-muted' },
};
