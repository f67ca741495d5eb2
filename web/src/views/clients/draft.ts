import * as z from 'zod';
import type { Schemas } from '~/api/client';
import { keyed, LIMITED, type LimitedKey, MACRO_KEYS, type MacroKey } from '~/food/nutrients';
import {
  date,
  energy,
  fill,
  key,
  needed,
  number,
  or,
  percent,
  read,
  shown,
  weight,
  words,
} from '~/lib/codecs';
import { asMacro } from '~/lib/numbers';

export type DayFigureKey = MacroKey | LimitedKey;
export type LimitKey = LimitedKey | 'capacity_g' | 'plate_g';
export type FigureKey = MacroKey | 'capacity_ml' | LimitKey;

export const DAY_FIGURES: DayFigureKey[] = MACRO_KEYS;
export const DAY_LIMITS: DayFigureKey[] = LIMITED.map(({ key }) => key);
export const TARGET_FIGURES: FigureKey[] = [...MACRO_KEYS, 'capacity_ml'];
export const LIMIT_FIGURES: LimitKey[] = [...LIMITED.map(({ key }) => key), 'capacity_g', 'plate_g'];
export const TOLERANCES: MacroKey[] = MACRO_KEYS;

const NO_FIGURES = keyed([...DAY_FIGURES, ...DAY_LIMITS], () => '');

const FIGURE_KEYS: DayFigureKey[] = [...DAY_FIGURES, ...DAY_LIMITS];
const figures = keyed(FIGURE_KEYS, (key) => (key === 'kcal' ? energy : number));

const day = z.object({
  key,
  day_type: z.string(),
  ...figures,
  extras: z.array(z.object({ key, food_id: z.string(), name: shown, grams: or(weight, 0) })),
});

const target = z.object({
  key,
  id: z.string().nullable(),
  slot: z.string(),
  day_type: z.string(),
  /** Of what the day's extras leave; with it the figures stay empty. */
  day_share: percent,
  ...figures,
  capacity_ml: number,
  capacity_g: number,
  plate_g: number,
});

const band = <V>(of: Parameters<typeof needed<V>>[0], none: V) =>
  needed(of, 'Give a number; 0 for to the gram.', none);

const client = (kcal: typeof number) =>
  z.object({
    name: z.string(),
    note: z.string(),
    allergens: z.array(z.string()),
    dislikes: words,
    exclusions: words,
    tolerance: z.object({
      percent: z.boolean(),
      ...keyed(MACRO_KEYS, (macro) => band(macro === 'kcal' ? kcal : number, 0)),
      priority_kcal: band(number, 0),
      priority_protein_g: band(number, 0),
      priority_carbohydrate_g: band(number, 0),
      priority_fat_g: band(number, 0),
    }),
    days: z.array(day),
    targets: z.array(target),
    at_hand: z.array(
      z.object({ key, food_id: z.string(), name: shown, serving_g: or(weight, 0), most: or(number, 0) }),
    ),
    signed_off_by: z.string(),
    signed_off_on: date,
    bounds: z.array(z.object({ key, word: z.string(), maximum_g: or(weight, 0) })),
    email: z.string(),
    likes: words,
    goals: z.string(),
    kitchen: z.string(),
    health: z.string(),
    version: z.number().nullable(),
  });

const IN_PERCENT = client(number);
const IN_AMOUNTS = client(energy);
/** A tolerance in percent is percent of energy too, whatever the person reads energy in. */
const formOf = (inPercent: boolean) => (inPercent ? IN_PERCENT : IN_AMOUNTS);

/** A client as typed: figures stay text until they are numbers. */
export type ClientDraft = z.input<typeof IN_AMOUNTS>;
export type TargetDraft = ClientDraft['targets'][number];
export type DayDraft = ClientDraft['days'][number];

export const newDay = (day_type: string): DayDraft => ({
  key: crypto.randomUUID(),
  day_type,
  ...NO_FIGURES,
  extras: [],
});

export const newTarget = (): TargetDraft => ({
  key: crypto.randomUUID(),
  id: null,
  slot: 'lunch',
  day_type: 'any',
  day_share: '',
  ...NO_FIGURES,
  capacity_ml: '',
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
  at_hand: [],
  signed_off_by: '',
  signed_off_on: '',
  bounds: [],
  email: '',
  likes: '',
  goals: '',
  kitchen: '',
  health: '',
  version: null,
});

type Figures = Record<DayFigureKey, number | null>;

const figuresText = (figures: Figures) =>
  keyed([...DAY_FIGURES, ...DAY_LIMITS], (key) => asMacro(key, figures[key]));

/** Figures that the server worked out, as a new target of the draft. */
export const targetOf = (figures: Figures): Partial<TargetDraft> =>
  figuresText({ ...figures, ...mapped(figures, (value) => Math.round(value * 10) / 10) });

const mapped = (figures: Figures, change: (value: number) => number) =>
  Object.fromEntries(
    Object.entries(figures).map(([key, value]) => [key, value === null ? null : change(value)]),
  ) as Figures;

export const clientDraft = (client: Schemas['ClientView']): ClientDraft => {
  const form = formOf(client.tolerance.percent);
  const targets = client.targets.map((target) =>
    target.day_share === null ? target : { ...target, ...keyed(FIGURE_KEYS, () => null) },
  );
  return fill(form, { ...client, targets });
};

export const typedWords = (text: string) => words.decode(text);

/** What to send, and by JSON pointer the fields that are no numbers yet. */
export const clientInput = (draft: ClientDraft) =>
  read(formOf(draft.tolerance.percent), {
    ...draft,
    // With a share of the day the figures follow from it, whatever was typed there before.
    targets: draft.targets.map((target) =>
      target.day_share.trim() === '' ? target : { ...target, ...NO_FIGURES },
    ),
  });
