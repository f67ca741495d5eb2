import type { Schemas } from '~/lib/api';
import { asMacro, asText, readNumber } from '~/lib/numbers';
import { macroStored } from '~/lib/units';

/** A client as typed: figures stay text until they are numbers. */
export type TargetDraft = {
  key: string;
  id: string | null;
  slot: string;
  day_type: string;
  kcal: string;
  protein_g: string;
  carbohydrate_g: string;
  fat_g: string;
  capacity_ml: string;
};

export type ClientDraft = {
  name: string;
  note: string;
  allergens: string[];
  dislikes: string;
  tolerance: Record<ToleranceKey, string>;
  targets: TargetDraft[];
  version: number | null;
};

export type ToleranceKey = keyof Schemas['ToleranceInput'];
export type FigureKey = 'kcal' | 'protein_g' | 'carbohydrate_g' | 'fat_g' | 'capacity_ml';

export const TARGET_FIGURES: FigureKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal', 'capacity_ml'];
export const TOLERANCES: ToleranceKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal'];

export const newTarget = (): TargetDraft => ({
  key: crypto.randomUUID(),
  id: null,
  slot: 'lunch',
  day_type: 'any',
  kcal: '',
  protein_g: '',
  carbohydrate_g: '',
  fat_g: '',
  capacity_ml: '',
});

export const newClient = (): ClientDraft => ({
  name: '',
  note: '',
  allergens: [],
  dislikes: '',
  tolerance: { kcal: '30', protein_g: '3', carbohydrate_g: '5', fat_g: '3' },
  targets: [newTarget()],
  version: null,
});

export const clientDraft = (client: Schemas['ClientView']): ClientDraft => ({
  name: client.name,
  note: client.note,
  allergens: client.allergens,
  dislikes: client.dislikes.join(', '),
  tolerance: {
    kcal: asMacro('kcal', client.tolerance.kcal),
    protein_g: asText(client.tolerance.protein_g),
    carbohydrate_g: asText(client.tolerance.carbohydrate_g),
    fat_g: asText(client.tolerance.fat_g),
  },
  targets: client.targets.map((target) => ({
    key: target.id,
    id: target.id,
    slot: target.slot,
    day_type: target.day_type,
    kcal: asMacro('kcal', target.kcal),
    protein_g: asText(target.protein_g),
    carbohydrate_g: asText(target.carbohydrate_g),
    fat_g: asText(target.fat_g),
    capacity_ml: asText(target.capacity_ml),
  })),
  version: client.version,
});

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
    dislikes: draft.dislikes.split(',').flatMap((word) => word.trim() || []),
    tolerance: {
      kcal: macroStored('kcal', tolerance('kcal')),
      protein_g: tolerance('protein_g'),
      carbohydrate_g: tolerance('carbohydrate_g'),
      fat_g: tolerance('fat_g'),
    },
    targets: draft.targets.map((target, place) => ({
      id: target.id,
      slot: target.slot,
      day_type: target.day_type,
      kcal: energy(number(`/targets/${place}/kcal`, target.kcal)),
      protein_g: number(`/targets/${place}/protein_g`, target.protein_g),
      carbohydrate_g: number(`/targets/${place}/carbohydrate_g`, target.carbohydrate_g),
      fat_g: number(`/targets/${place}/fat_g`, target.fat_g),
      capacity_ml: number(`/targets/${place}/capacity_ml`, target.capacity_ml),
    })),
    version: draft.version,
  };
  return { body, faults };
}
