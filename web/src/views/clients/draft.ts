import type { Schemas } from '~/lib/api';
import { asMacro, asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { macroStored } from '~/lib/units';

/** A client as typed: figures stay text until they are numbers. */
export type TargetDraft = {
  key: string;
  id: string | null;
  slot: string;
  day_type: string;
  /** Percent of what the day's extras leave; with it the figures stay empty. */
  day_share: string;
  kcal: string;
  protein_g: string;
  carbohydrate_g: string;
  fat_g: string;
  capacity_ml: string;
  fibre_g: string;
  saturated_g: string;
  sodium_mg: string;
  capacity_g: string;
  plate_g: string;
};

export type DayFigureKey = MacroKey | 'fibre_g' | 'saturated_g' | 'sodium_mg';

export type DayExtraDraft = { key: string; food_id: string; name: string; grams: string };

export type DayDraft = Record<DayFigureKey, string> & {
  key: string;
  day_type: string;
  extras: DayExtraDraft[];
};

export type ClientDraft = {
  name: string;
  note: string;
  allergens: string[];
  dislikes: string;
  exclusions: string;
  tolerance: Record<ToleranceKey, string> & { percent: boolean };
  days: DayDraft[];
  targets: TargetDraft[];
  signed_off_by: string;
  signed_off_on: string;
  version: number | null;
};

export type MacroKey = 'protein_g' | 'carbohydrate_g' | 'fat_g' | 'kcal';
export type ToleranceKey = MacroKey | `priority_${MacroKey}`;
export type LimitKey = 'fibre_g' | 'saturated_g' | 'sodium_mg' | 'capacity_g' | 'plate_g';
export type FigureKey = MacroKey | 'capacity_ml' | LimitKey;

export const TARGET_FIGURES: FigureKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal', 'capacity_ml'];
export const LIMIT_FIGURES: LimitKey[] = ['fibre_g', 'saturated_g', 'sodium_mg', 'capacity_g', 'plate_g'];
export const TOLERANCES: MacroKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal'];

export const DAY_FIGURES: DayFigureKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal'];
export const DAY_LIMITS: DayFigureKey[] = ['fibre_g', 'saturated_g', 'sodium_mg'];

export const newDay = (day_type: string): DayDraft => ({
  key: crypto.randomUUID(),
  day_type,
  kcal: '',
  protein_g: '',
  carbohydrate_g: '',
  fat_g: '',
  fibre_g: '',
  saturated_g: '',
  sodium_mg: '',
  extras: [],
});

export const newTarget = (): TargetDraft => ({
  key: crypto.randomUUID(),
  id: null,
  slot: 'lunch',
  day_type: 'any',
  day_share: '',
  kcal: '',
  protein_g: '',
  carbohydrate_g: '',
  fat_g: '',
  capacity_ml: '',
  fibre_g: '',
  saturated_g: '',
  sodium_mg: '',
  capacity_g: '',
  plate_g: '',
});

/** Where a coach begins: grams and kcal, or five percent of everything. */
export const usualTolerance = (percent: boolean): Record<MacroKey, string> & { percent: boolean } =>
  percent
    ? { percent, kcal: '5', protein_g: '5', carbohydrate_g: '5', fat_g: '5' }
    : { percent, kcal: asMacro('kcal', 30), protein_g: '3', carbohydrate_g: '5', fat_g: '3' };

export const newClient = (): ClientDraft => ({
  name: '',
  note: '',
  allergens: [],
  dislikes: '',
  exclusions: '',
  tolerance: {
    ...usualTolerance(false),
    priority_kcal: '2',
    priority_protein_g: '2',
    priority_carbohydrate_g: '1',
    priority_fat_g: '1',
  },
  days: [],
  targets: [newTarget()],
  signed_off_by: '',
  signed_off_on: '',
  version: null,
});

type Figures = Record<DayFigureKey, number | null>;

const NO_FIGURES: Record<DayFigureKey, string> = {
  kcal: '',
  protein_g: '',
  carbohydrate_g: '',
  fat_g: '',
  fibre_g: '',
  saturated_g: '',
  sodium_mg: '',
};

const figuresText = (figures: Figures): Record<DayFigureKey, string> => ({
  kcal: asMacro('kcal', figures.kcal),
  protein_g: asText(figures.protein_g),
  carbohydrate_g: asText(figures.carbohydrate_g),
  fat_g: asText(figures.fat_g),
  fibre_g: asText(figures.fibre_g),
  saturated_g: asText(figures.saturated_g),
  sodium_mg: asText(figures.sodium_mg),
});

/** Figures that the server worked out, as a new target of the draft. */
export const targetOf = (figures: Figures): Partial<TargetDraft> =>
  figuresText({ ...figures, ...mapped(figures, (value) => Math.round(value * 10) / 10) });

const mapped = (figures: Figures, change: (value: number) => number) =>
  Object.fromEntries(
    Object.entries(figures).map(([key, value]) => [key, value === null ? null : change(value)]),
  ) as Figures;

export const clientDraft = (client: Schemas['ClientView']): ClientDraft => ({
  name: client.name,
  note: client.note,
  allergens: client.allergens,
  dislikes: client.dislikes.join(', '),
  exclusions: client.exclusions.join(', '),
  tolerance: {
    percent: client.tolerance.percent,
    kcal: client.tolerance.percent ? asText(client.tolerance.kcal) : asMacro('kcal', client.tolerance.kcal),
    protein_g: asText(client.tolerance.protein_g),
    carbohydrate_g: asText(client.tolerance.carbohydrate_g),
    fat_g: asText(client.tolerance.fat_g),
    priority_kcal: asText(client.tolerance.priority_kcal),
    priority_protein_g: asText(client.tolerance.priority_protein_g),
    priority_carbohydrate_g: asText(client.tolerance.priority_carbohydrate_g),
    priority_fat_g: asText(client.tolerance.priority_fat_g),
  },
  days: client.days.map((day) => ({
    key: crypto.randomUUID(),
    day_type: day.day_type,
    ...figuresText(day),
    extras: day.extras.map((extra) => ({
      key: crypto.randomUUID(),
      food_id: extra.food_id,
      name: extra.name,
      grams: asWeight(extra.grams),
    })),
  })),
  targets: client.targets.map((target) => ({
    key: target.id,
    id: target.id,
    slot: target.slot,
    day_type: target.day_type,
    day_share: target.day_share === null ? '' : asText(Math.round(target.day_share * 1e4) / 100),
    ...(target.day_share === null ? figuresText(target) : NO_FIGURES),
    capacity_ml: asText(target.capacity_ml),
    capacity_g: asText(target.capacity_g),
    plate_g: asText(target.plate_g),
  })),
  signed_off_by: client.signed_off_by,
  signed_off_on: client.signed_off_on ?? '',
  version: client.version,
});

export const typedWords = (text: string) => text.split(',').flatMap((word) => word.trim() || []);

/** What to send, or the fields that are no numbers yet, by JSON pointer. */
export function clientInput(draft: ClientDraft): {
  body: Schemas['ClientInput'];
  faults: Map<string, string>;
} {
  const faults = new Map<string, string>();
  const number = (pointer: string, text: string) => {
    const { value, fault } = readNumber(text);
    if (fault) faults.set(pointer, fault);
    return value;
  };
  const energy = (value: number | null) => (value === null ? null : macroStored('kcal', value));
  const percent = (pointer: string, text: string) => {
    const value = number(pointer, text);
    return value === null ? null : value / 100;
  };
  const mass = (pointer: string, text: string) => {
    const { value, fault } = readWeight(text);
    if (fault) faults.set(pointer, fault);
    return value;
  };
  const figures = (pointer: string, typed: Record<DayFigureKey, string>) => ({
    kcal: energy(number(`${pointer}/kcal`, typed.kcal)),
    protein_g: number(`${pointer}/protein_g`, typed.protein_g),
    carbohydrate_g: number(`${pointer}/carbohydrate_g`, typed.carbohydrate_g),
    fat_g: number(`${pointer}/fat_g`, typed.fat_g),
    fibre_g: number(`${pointer}/fibre_g`, typed.fibre_g),
    saturated_g: number(`${pointer}/saturated_g`, typed.saturated_g),
    sodium_mg: number(`${pointer}/sodium_mg`, typed.sodium_mg),
  });
  const tolerance = (key: ToleranceKey) => {
    const value = number(`/tolerance/${key}`, draft.tolerance[key]);
    if (value === null && !faults.has(`/tolerance/${key}`)) {
      faults.set(`/tolerance/${key}`, 'Give a number; 0 for to the gram.');
    }
    return value ?? 0;
  };
  const body: Schemas['ClientInput'] = {
    name: draft.name,
    note: draft.note,
    allergens: draft.allergens,
    dislikes: typedWords(draft.dislikes),
    exclusions: typedWords(draft.exclusions),
    tolerance: {
      percent: draft.tolerance.percent,
      kcal: draft.tolerance.percent ? tolerance('kcal') : macroStored('kcal', tolerance('kcal')),
      protein_g: tolerance('protein_g'),
      carbohydrate_g: tolerance('carbohydrate_g'),
      fat_g: tolerance('fat_g'),
      priority_kcal: tolerance('priority_kcal'),
      priority_protein_g: tolerance('priority_protein_g'),
      priority_carbohydrate_g: tolerance('priority_carbohydrate_g'),
      priority_fat_g: tolerance('priority_fat_g'),
    },
    days: draft.days.map((day, place) => ({
      day_type: day.day_type,
      ...figures(`/days/${place}`, day),
      extras: day.extras.map((extra, at) => ({
        food_id: extra.food_id,
        grams: mass(`/days/${place}/extras/${at}/grams`, extra.grams) ?? 0,
      })),
    })),
    targets: draft.targets.map((target, place) => ({
      id: target.id,
      slot: target.slot,
      day_type: target.day_type,
      day_share: percent(`/targets/${place}/day_share`, target.day_share),
      ...(target.day_share.trim() === '' ? figures(`/targets/${place}`, target) : {}),
      capacity_ml: number(`/targets/${place}/capacity_ml`, target.capacity_ml),
      capacity_g: number(`/targets/${place}/capacity_g`, target.capacity_g),
      plate_g: number(`/targets/${place}/plate_g`, target.plate_g),
    })),
    signed_off_by: draft.signed_off_by,
    signed_off_on: draft.signed_off_on || null,
    version: draft.version,
  };
  return { body, faults };
}
