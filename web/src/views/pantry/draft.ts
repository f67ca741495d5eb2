import * as z from 'zod';
import type { Schemas } from '~/api/client';
import { keyed, NUTRIENTS } from '~/food/nutrients';
import { date, fill, key, number, or, read, weight } from '~/lib/codecs';
import { today } from '~/lib/format';
import { asText, asWeight } from '~/lib/numbers';

/** A figure that a label may print. */
export type LabelKey = Exclude<
  keyof Schemas['LabelInput'],
  'serving_g' | 'serving_ml' | 'ml_weighs_g' | 'carbohydrate' | 'rounding'
>;

const PRINTED: [LabelKey, string, string][] = [
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
const others = NUTRIENTS.filter(({ key }) => !PRINTED.some(([printed]) => printed === key));

/** The figures of a label in the order in which it prints them, then whatever else is a nutrient. */
export const LABEL_FIGURES: [LabelKey, string, string][] = [
  ...PRINTED,
  ...others.map(({ key, name, unit }): [LabelKey, string, string] => [key, name, unit]),
];

const measure = z.object({ key, name: z.string(), grams: or(weight, 0) });
const pack = z.object({
  key,
  name: z.string(),
  grams: or(weight, 0),
  drained_g: weight,
  price: number,
  shop: z.string(),
  seen_on: date,
  sold: z.custom<Schemas['Sold']>(),
});
const supply = z.object({ measures: z.array(measure), packs: z.array(pack) });

const label = z.object({
  serving_g: or(weight, 0),
  serving_ml: number,
  ml_weighs_g: number,
  ...keyed(
    LABEL_FIGURES.map(([name]) => name),
    () => number,
  ),
  carbohydrate: z.custom<Schemas['Carbohydrate']>(),
  rounding: z.custom<Schemas['Rounding']>(),
});

const food = z.object({
  name: z.string(),
  group: z.string(),
  state: z.custom<Schemas['FoodState']>(),
  method: z.string(),
  label,
  allergens: z.array(z.string()),
  diet_tags: z.array(z.string()),
  note: z.string(),
  other_names: z.string(),
  ...supply.shape,
  copied_from: z.string().nullable(),
  version: z.number().nullable(),
});

export type MeasureDraft = z.input<typeof measure>;
export type PackDraft = z.input<typeof pack>;
export type SupplyDraft = z.input<typeof supply>;

/** An own food as typed from its label. `by_volume`: the figures are for millilitres, of which one is weighed. */
export type FoodDraft = z.input<typeof food> & { by_volume: boolean };

const EMPTY = keyed(
  LABEL_FIGURES.map(([key]) => key),
  () => '',
);

export const newMeasure = (): MeasureDraft => ({ key: crypto.randomUUID(), name: '', grams: '' });
export const newPack = (): PackDraft => ({
  key: crypto.randomUUID(),
  name: '',
  grams: '',
  drained_g: '',
  price: '',
  shop: '',
  seen_on: today(),
  sold: 'by the pack',
});

export const newFood = (): FoodDraft => ({
  name: '',
  group: 'own',
  state: 'as-sold',
  method: '',
  by_volume: false,
  label: {
    serving_g: asWeight(100),
    serving_ml: '100',
    ml_weighs_g: '',
    ...EMPTY,
    carbohydrate: 'available',
    rounding: 'eu',
  },
  allergens: [],
  diet_tags: [],
  note: '',
  other_names: '',
  measures: [],
  packs: [],
  copied_from: null,
  version: null,
});

export const supplyDraft = (detail: Schemas['FoodDetail']): SupplyDraft =>
  fill(supply, {
    measures: detail.measures.filter((one) => one.own),
    packs: detail.packs,
  });

/** The form of an own food; `copy` starts a new one from any food's values per 100 g. */
export function foodDraft(detail: Schemas['FoodDetail'], copy = false): FoodDraft {
  const { food, label } = detail;
  const figures = { ...EMPTY };
  if (label) for (const [key] of LABEL_FIGURES) figures[key] = asText(label[key]);
  else {
    for (const { key } of NUTRIENTS)
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
    by_volume: label?.serving_ml != null,
    label: {
      serving_g: asWeight(label?.serving_g ?? 100),
      serving_ml: asText(label?.serving_ml ?? 100),
      ml_weighs_g: asText(label?.ml_weighs_g ?? null),
      ...figures,
      carbohydrate: (label?.carbohydrate ?? detail.carbohydrate) === 'available' ? 'available' : 'total',
      rounding: label ? (label.rounding as Schemas['Rounding']) : 'exact',
    },
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

export const supplyInput = (draft: SupplyDraft) => read(supply, draft);

/** What to send, and by JSON pointer the fields that are no numbers yet. */
export const foodInput = ({ by_volume, ...draft }: FoodDraft) =>
  read(food, {
    ...draft,
    label: {
      ...draft.label,
      serving_ml: by_volume ? draft.label.serving_ml.trim() || '0' : '',
      ml_weighs_g: by_volume ? draft.label.ml_weighs_g : '',
    },
  });
