import type { Schemas } from '~/api/client';

export type NutrientKey = Schemas['Nutrient'];
export type MacroKey = 'protein_g' | 'carbohydrate_g' | 'fat_g' | 'kcal';

type Facts = {
  key: NutrientKey;
  name: string;
  unit: 'g' | 'mg' | 'kcal';
  /** The side on which a target may limit it, and the words of that. */
  limit?: string;
};

/** Every nutrient, in the order in which it is shown; a new one is a line here. */
export const NUTRIENTS = [
  { key: 'protein_g', name: 'Protein', unit: 'g' },
  { key: 'carbohydrate_g', name: 'Carbohydrate', unit: 'g' },
  { key: 'fat_g', name: 'Fat', unit: 'g' },
  { key: 'kcal', name: 'Energy', unit: 'kcal' },
  { key: 'fibre_g', name: 'Fibre', unit: 'g', limit: 'Fibre, at least' },
  { key: 'sugars_g', name: 'Sugars', unit: 'g' },
  { key: 'saturated_g', name: 'Saturated fat', unit: 'g', limit: 'Saturated, at most' },
  { key: 'sodium_mg', name: 'Sodium', unit: 'mg', limit: 'Sodium, at most' },
  { key: 'potassium_mg', name: 'Potassium', unit: 'mg' },
] as const satisfies readonly Facts[];

type Limited = Extract<(typeof NUTRIENTS)[number], { limit: string }>;
export type LimitedKey = Limited['key'];
export const LIMITED = NUTRIENTS.filter((one): one is Limited => 'limit' in one);

export const MACRO_KEYS: MacroKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal'];
const isMacro = (key: NutrientKey) => (MACRO_KEYS as NutrientKey[]).includes(key);
/** What stands below the macros. */
export const MINOR = NUTRIENTS.filter(({ key }) => !isMacro(key));

/** An object with something for each of these keys. */
export const keyed = <K extends string, V>(keys: readonly K[], of: (key: K) => V) =>
  Object.fromEntries(keys.map((key) => [key, of(key)])) as Record<K, V>;
