import { expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { newComponent, newLine, newRecipe, newStep, recipeDraft, recipeInput } from '~/views/recipes/draft';

const line = {
  food: { id: 'f', name: 'Bulgur' },
  source: null,
  purchased_g: 250.5,
  refuse_share: 0.125,
  refuse_after: true,
  retained_share: 0.9,
  yield_factor: null,
  text: '250 g bulgur',
  weighed_state: 'dry',
  counted: true,
  scales: false,
  dismissed: { odd: 'fine' },
};
const component = {
  id: 'c',
  name: 'Bulgur',
  role: 'grain',
  method: 'simmered',
  minimum_g: 0,
  maximum_g: 300,
  density_g_per_ml: 0.8,
  yield_low: 2.1,
  yield_expected: 2.4,
  yield_high: null,
  poured_fat_g: 0,
  pieces: 12,
  pan_capacity_g: null,
  lid: 'on',
  cook_min: 20,
  school: 'pieces',
  unit_g: 60,
  unit_part: 0.5,
  plate_share: 1,
  eye_g: 0,
  place: 'beside',
  tub_ml: 60,
  group: 'grain',
  packed_raw: false,
  kit_text: '',
  whole_pans: true,
  served: true,
  dismissed: {},
};
const step = {
  id: 's',
  text: 'Simmer.',
  component_id: 'c',
  hands_on_min: 2,
  unattended_min: 15,
  every_min: 5,
  temperature_c: 180,
  equipment: 'hob',
  growth: 'mild',
  load_g: 900,
  lead_min: null,
  lead_most_min: null,
  core_c: 74,
  done_when: 'thick',
  after: null,
  trouble: '',
};
const stored = {
  name: 'Bowl',
  note: '',
  serves: 4,
  groups: { grain: 1, 'green vegetables': 2 },
  version: 3,
  steps: [step],
  components: [{ ...component, lines: [line], figures: {}, findings: [] }],
} as unknown as Schemas['RecipeView'];

const sent = (draft: Parameters<typeof recipeInput>[0]) =>
  JSON.parse(JSON.stringify(recipeInput(draft).body));

it('what is stored is sent again as it is', () => {
  const { food, source, ...figures } = line;
  const { trouble, ...typed } = step;
  expect(sent(recipeDraft(stored))).toEqual({
    name: 'Bowl',
    note: '',
    serves: 4,
    groups: { grain: 1, 'green vegetables': 2 },
    version: 3,
    steps: [typed],
    components: [{ ...component, lines: [{ ...figures, food_id: 'f', source_id: null, unfolded: false }] }],
  });
});

it('a new recipe sends what nobody said as nothing', () => {
  const [made] = sent({
    ...newRecipe(),
    components: [{ ...newComponent(), lines: [newLine({})] }],
  }).components;
  expect(made).toMatchObject({
    yield_expected: null,
    cook_min: null,
    maximum_g: null,
    poured_fat_g: 0,
    lid: '',
  });
  expect(made.lines[0]).toMatchObject({ purchased_g: 0, refuse_share: 0, retained_share: 1, food_id: null });
});

it('sums of weights stay sums for the server', () => {
  const draft = {
    ...newRecipe(),
    components: [{ ...newComponent(), lines: [newLine({ purchased_g: '400+350' })] }],
  };
  expect(sent(draft).components[0].lines[0].purchased_g).toBe('400 g+350 g');
});

it('every field that is no number is told at its place', () => {
  const lines = [newLine({ purchased_g: 'some', refuse_share: 'x' })];
  const draft = {
    ...newRecipe(),
    steps: [newStep({ lead_min: 'long' })],
    components: [{ ...newComponent(), pieces: '?', lines }],
  };
  expect([...recipeInput(draft).faults.keys()].sort()).toEqual([
    '/components/0/lines/0/purchased_g',
    '/components/0/lines/0/refuse_share',
    '/components/0/pieces',
    '/steps/0/lead_min',
  ]);
});
