import type { Schemas } from '~/lib/api';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';

/** An own food as typed from its label. */
export type LabelKey =
  | 'kcal'
  | 'kj'
  | 'protein_g'
  | 'carbohydrate_g'
  | 'fat_g'
  | 'fibre_g'
  | 'sugars_g'
  | 'saturated_g'
  | 'salt_g'
  | 'sodium_mg'
  | 'alcohol_g'
  | 'polyols_g';

export const LABEL_FIGURES: [LabelKey, string, string][] = [
  ['kcal', 'Energy', 'kcal'],
  ['kj', 'or energy', 'kJ'],
  ['fat_g', 'Fat', 'g'],
  ['saturated_g', 'of which saturates', 'g'],
  ['carbohydrate_g', 'Carbohydrate', 'g'],
  ['sugars_g', 'of which sugars', 'g'],
  ['polyols_g', 'of which polyols', 'g'],
  ['fibre_g', 'Fibre', 'g'],
  ['protein_g', 'Protein', 'g'],
  ['salt_g', 'Salt', 'g'],
  ['sodium_mg', 'or sodium', 'mg'],
  ['alcohol_g', 'Alcohol', 'g'],
];

export type MeasureDraft = { key: string; name: string; grams: string };
export type PackDraft = { key: string; name: string; grams: string; drained_g: string; price: string };

export type FoodDraft = {
  name: string;
  group: string;
  state: string;
  method: string;
  serving_g: string;
  /** Whether the figures are for millilitres, for how many, and what one of them weighs. */
  by_volume: boolean;
  serving_ml: string;
  ml_weighs_g: string;
  figures: Record<LabelKey, string>;
  carbohydrate: 'total' | 'available';
  rounding: 'us' | 'eu' | 'exact';
  allergens: string[];
  diet_tags: string[];
  note: string;
  other_names: string;
  measures: MeasureDraft[];
  packs: PackDraft[];
  copied_from: string | null;
  version: number | null;
};

const EMPTY = Object.fromEntries(LABEL_FIGURES.map(([key]) => [key, ''])) as Record<LabelKey, string>;

export const newMeasure = (): MeasureDraft => ({ key: crypto.randomUUID(), name: '', grams: '' });
export const newPack = (): PackDraft => ({
  key: crypto.randomUUID(),
  name: '',
  grams: '',
  drained_g: '',
  price: '',
});

export const newFood = (): FoodDraft => ({
  name: '',
  group: 'own',
  state: 'as-sold',
  method: '',
  serving_g: asWeight(100),
  by_volume: false,
  serving_ml: '100',
  ml_weighs_g: '',
  figures: EMPTY,
  carbohydrate: 'available',
  rounding: 'eu',
  allergens: [],
  diet_tags: [],
  note: '',
  other_names: '',
  measures: [],
  packs: [],
  copied_from: null,
  version: null,
});

export type SupplyDraft = { measures: MeasureDraft[]; packs: PackDraft[] };

export const supplyDraft = (detail: Schemas['FoodDetail']): SupplyDraft => ({
  measures: detail.measures
    .filter((one) => one.own)
    .map((one) => ({ key: crypto.randomUUID(), name: one.name, grams: asWeight(one.grams) })),
  packs: detail.packs.map((one) => ({
    key: crypto.randomUUID(),
    name: one.name,
    grams: asWeight(one.grams),
    drained_g: asWeight(one.drained_g),
    price: asText(one.price),
  })),
});

/** The form of an own food; `copy` starts a new one from any food's values per 100 g. */
export function foodDraft(detail: Schemas['FoodDetail'], copy = false): FoodDraft {
  const { food, label } = detail;
  const figures = { ...EMPTY };
  if (label) for (const [key] of LABEL_FIGURES) figures[key] = asText(label[key]);
  else {
    for (const key of [
      'protein_g',
      'carbohydrate_g',
      'fat_g',
      'fibre_g',
      'sugars_g',
      'saturated_g',
      'sodium_mg',
    ] as const)
      figures[key] = detail.missing.includes(key) ? '' : asText(Math.round(food.per_100g[key] * 1000) / 1000);
    figures.kcal = asText(detail.stated_kcal);
    figures.alcohol_g = asText(detail.alcohol_g);
    figures.polyols_g = asText(detail.polyols_g);
  }
  return {
    name: copy ? `${food.name}, own` : food.name,
    group: food.group,
    state: food.state,
    method: food.method,
    serving_g: asWeight(label?.serving_g ?? 100),
    by_volume: label?.serving_ml != null,
    serving_ml: asText(label?.serving_ml ?? 100),
    ml_weighs_g: asText(label?.ml_weighs_g ?? null),
    figures,
    carbohydrate: (label?.carbohydrate ?? detail.carbohydrate) === 'available' ? 'available' : 'total',
    rounding: label ? (label.rounding as FoodDraft['rounding']) : 'exact',
    allergens: food.allergens,
    diet_tags: detail.diet_tags.filter((tag) => DIET_TAGS.includes(tag)),
    note: detail.note,
    other_names: detail.other_names,
    ...supplyDraft(detail),
    copied_from: copy ? food.id : null,
    version: copy ? null : detail.version,
  };
}

const DIET_TAGS = ['vegan', 'vegetarian', 'pescatarian', 'contains-meat'];

type Faults = Map<string, string>;

export function supplyInput(
  draft: { measures: MeasureDraft[]; packs: PackDraft[] },
  faults: Faults = new Map(),
): Schemas['SupplyInput'] {
  const number = numberReader(faults);
  const weight = weightReader(faults);
  return {
    measures: draft.measures.map((one, at) => ({
      name: one.name,
      grams: weight(`/measures/${at}/grams`, one.grams) ?? 0,
    })),
    packs: draft.packs.map((one, at) => ({
      name: one.name,
      grams: weight(`/packs/${at}/grams`, one.grams) ?? 0,
      drained_g: weight(`/packs/${at}/drained_g`, one.drained_g),
      price: number(`/packs/${at}/price`, one.price),
    })),
  };
}

export function foodInput(draft: FoodDraft): { body: Schemas['FoodInput']; faults: Faults } {
  const faults: Faults = new Map();
  const number = numberReader(faults);
  const serving = weightReader(faults)('/label/serving_g', draft.serving_g);
  const figures = Object.fromEntries(
    LABEL_FIGURES.map(([key]) => [key, number(`/label/${key}`, draft.figures[key])]),
  ) as Record<LabelKey, number | null>;
  return {
    body: {
      name: draft.name,
      group: draft.group,
      state: draft.state,
      method: draft.method,
      label: {
        serving_g: serving ?? 0,
        serving_ml: draft.by_volume ? (number('/label/serving_ml', draft.serving_ml) ?? 0) : null,
        ml_weighs_g: draft.by_volume ? number('/label/ml_weighs_g', draft.ml_weighs_g) : null,
        ...figures,
        carbohydrate: draft.carbohydrate,
        rounding: draft.rounding,
      },
      allergens: draft.allergens,
      diet_tags: draft.diet_tags,
      note: draft.note,
      other_names: draft.other_names,
      ...supplyInput(draft, faults),
      copied_from: draft.copied_from,
      version: draft.version,
    },
    faults,
  };
}

const numberReader = (faults: Faults) => (pointer: string, text: string) => {
  const { value, fault } = readNumber(text);
  if (fault) faults.set(pointer, fault);
  return value;
};

const weightReader = (faults: Faults) => (pointer: string, text: string) => {
  const { value, fault } = readWeight(text);
  if (fault) faults.set(pointer, fault);
  return value;
};
