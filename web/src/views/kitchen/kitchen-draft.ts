import * as z from 'zod';
import type { Schemas } from '~/api/client';
import { fill, heat, key, number, or, read, weight } from '~/lib/codecs';

/** What somebody does, in words. */
export const SKILLS: { value: Schemas['Skill']; label: string }[] = [
  { value: 'knife', label: 'knife work' },
  { value: 'raw', label: 'raw meat, fish, egg' },
  { value: 'heat', label: 'stove and oven' },
  { value: 'other', label: 'all else' },
];

const item = z.object({
  key,
  id: z.string(),
  kind: z.custom<Schemas['Kind']>(),
  name: z.string(),
  count: or(number, 1),
  places: or(number, 1),
  capacity_l: number,
  meat_g: weight,
  vegetables_g: weight,
  grain_g: weight,
  most_c: heat,
  within_id: z.string().nullable(),
});

const person = z.object({
  key,
  id: z.string(),
  name: z.string(),
  does: z.array(z.custom<Schemas['Skill']>()),
  pace: or(number, 1),
});

const kitchen = z.object({
  name: z.string(),
  version: z.number().nullable(),
  items: z.array(item),
  people: z.array(person),
});

export type KitchenDraft = z.input<typeof kitchen>;
export type ItemDraft = KitchenDraft['items'][number];
type PersonDraft = KitchenDraft['people'][number];

export const newPerson = (): PersonDraft => {
  const id = crypto.randomUUID();
  return { key: id, id, name: '', does: SKILLS.map(({ value }) => value), pace: '1' };
};

/** Usual equipment as one of the kitchen's own. */
export const itemOf = (usual: Schemas['UsualItem']): ItemDraft => {
  const id = crypto.randomUUID();
  return fill(item, { ...usual, key: id, id, count: 1, within_id: null });
};

export const newKitchen = (): KitchenDraft => ({ name: '', version: null, items: [], people: [newPerson()] });

export const kitchenDraft = (found: Schemas['KitchenView']): KitchenDraft => fill(kitchen, found);

export const kitchenInput = (draft: KitchenDraft) => read(kitchen, draft);
