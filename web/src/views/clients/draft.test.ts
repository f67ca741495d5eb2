import { afterEach, expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { keepUnits } from '~/lib/units';
import { clientDraft, clientInput, newClient, newDay, newTarget } from '~/views/clients/draft';

const figures = {
  kcal: 650,
  protein_g: 45,
  carbohydrate_g: 55,
  fat_g: null,
  fibre_g: 9,
  saturated_g: null,
  sodium_mg: null,
};
const stored = {
  name: 'Ines',
  note: '',
  allergens: ['milk'],
  dislikes: ['okra', 'eggs'],
  exclusions: [],
  bounds: [{ word: 'courgette', maximum_g: 40 }],
  email: 'ines@port-alder.example',
  likes: ['oats'],
  goals: 'the regatta',
  kitchen: '',
  health: '',
  tolerance: {
    percent: false,
    kcal: 30,
    protein_g: 3,
    carbohydrate_g: 5,
    fat_g: 3,
    priority_kcal: 2,
    priority_protein_g: 2,
    priority_carbohydrate_g: 1,
    priority_fat_g: 1,
  },
  days: [
    { day_type: 'training', ...figures, extras: [{ food_id: 'f', name: 'Oats', grams: 60, amounts: {} }] },
  ],
  targets: [
    {
      id: 't',
      slot: 'lunch',
      day_type: 'any',
      day_share: null,
      ...figures,
      capacity_ml: 1000,
      capacity_g: null,
      plate_g: null,
      conflict: null,
    },
    {
      id: 'u',
      slot: 'dinner',
      day_type: 'training',
      day_share: 0.375,
      ...figures,
      capacity_ml: null,
      capacity_g: null,
      plate_g: null,
      conflict: null,
    },
  ],
  at_hand: [{ food_id: 'f', name: 'Oats', serving_g: 40, most: 2, kept_out: [] }],
  signed_off_by: '',
  signed_off_on: null,
  version: 4,
} as unknown as Schemas['ClientView'];

const home = { mass_unit: 'g', temperature_unit: 'C', energy_unit: 'kcal' };
afterEach(() => keepUnits(home));
const sent = (draft: Parameters<typeof clientInput>[0]) =>
  JSON.parse(JSON.stringify(clientInput(draft).body));

it('what is stored is sent again as it is', () => {
  const body = sent(clientDraft(stored));
  expect(body).toMatchObject({
    name: 'Ines',
    dislikes: ['okra', 'eggs'],
    tolerance: stored.tolerance,
    version: 4,
  });
  expect(body.days).toEqual([{ day_type: 'training', ...figures, extras: [{ food_id: 'f', grams: 60 }] }]);
  expect(body.targets[0]).toMatchObject({ id: 't', ...figures, capacity_ml: 1000, day_share: null });
});

it('a share of the day sends no figures of its own', () => {
  const [, shared] = sent(clientDraft(stored)).targets;
  expect(shared).toMatchObject({ day_share: 0.375, kcal: null, protein_g: null });
});

it('energy is typed in the person’s unit, but percent of it is percent', () => {
  keepUnits({ ...home, energy_unit: 'kJ' });
  const draft = clientDraft(stored);
  expect(draft.targets[0]?.kcal).toBe('2719.6');
  expect(sent(draft).targets[0].kcal).toBeCloseTo(650, 6);
  expect(sent(draft).tolerance.kcal).toBeCloseTo(30, 6);
  const share = { ...draft, tolerance: { ...draft.tolerance, percent: true, kcal: '5' } };
  expect(sent(share).tolerance.kcal).toBe(5);
});

it('every field that is no number is told at its place', () => {
  const draft = {
    ...newClient(),
    days: [{ ...newDay('rest'), kcal: 'lots' }],
    targets: [{ ...newTarget(), fat_g: 'x' }],
  };
  draft.tolerance = { ...draft.tolerance, protein_g: '' };
  const { faults } = clientInput(draft);
  expect([...faults.keys()].sort()).toEqual(['/days/0/kcal', '/targets/0/fat_g', '/tolerance/protein_g']);
  expect(faults.get('/tolerance/protein_g')).toContain('0 for to the gram');
});
