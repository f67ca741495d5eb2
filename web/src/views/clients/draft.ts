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
  fibre_g: string;
  saturated_g: string;
  sodium_mg: string;
  capacity_g: string;
  plate_g: string;
};

export type ClientDraft = {
  name: string;
  note: string;
  allergens: string[];
  dislikes: string;
  tolerance: Record<ToleranceKey, string>;
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
  fibre_g: '',
  saturated_g: '',
  sodium_mg: '',
  capacity_g: '',
  plate_g: '',
});

export const newClient = (): ClientDraft => ({
  name: '',
  note: '',
  allergens: [],
  dislikes: '',
  tolerance: {
    kcal: '30',
    protein_g: '3',
    carbohydrate_g: '5',
    fat_g: '3',
    priority_kcal: '2',
    priority_protein_g: '2',
    priority_carbohydrate_g: '1',
    priority_fat_g: '1',
  },
  targets: [newTarget()],
  signed_off_by: '',
  signed_off_on: '',
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
    priority_kcal: asText(client.tolerance.priority_kcal),
    priority_protein_g: asText(client.tolerance.priority_protein_g),
    priority_carbohydrate_g: asText(client.tolerance.priority_carbohydrate_g),
    priority_fat_g: asText(client.tolerance.priority_fat_g),
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
    fibre_g: asText(target.fibre_g),
    saturated_g: asText(target.saturated_g),
    sodium_mg: asText(target.sodium_mg),
    capacity_g: asText(target.capacity_g),
    plate_g: asText(target.plate_g),
  })),
  signed_off_by: client.signed_off_by,
  signed_off_on: client.signed_off_on ?? '',
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
      priority_kcal: tolerance('priority_kcal'),
      priority_protein_g: tolerance('priority_protein_g'),
      priority_carbohydrate_g: tolerance('priority_carbohydrate_g'),
      priority_fat_g: tolerance('priority_fat_g'),
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
      fibre_g: number(`/targets/${place}/fibre_g`, target.fibre_g),
      saturated_g: number(`/targets/${place}/saturated_g`, target.saturated_g),
      sodium_mg: number(`/targets/${place}/sodium_mg`, target.sodium_mg),
      capacity_g: number(`/targets/${place}/capacity_g`, target.capacity_g),
      plate_g: number(`/targets/${place}/plate_g`, target.plate_g),
    })),
    signed_off_by: draft.signed_off_by,
    signed_off_on: draft.signed_off_on || null,
    version: draft.version,
  };
  return { body, faults };
}
