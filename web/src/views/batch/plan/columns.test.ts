import { describe, expect, it } from 'vitest';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type Column, columnsOf, nudge, readTyped, togglePin, typedChange } from '~/views/batch/plan/columns';
import { foldable, linesOf } from '~/views/batch/plan/lines';

const cell = (component_id: string, grams: number, more: object = {}) => ({
  component_id,
  grams,
  pinned_g: null,
  units: null,
  left_out: [],
  ...more,
});
const row = (id: string, client_id: string, more: object = {}) => ({
  id,
  client_id,
  client: client_id,
  count: 3,
  capacity_ml: null,
  capacity_g: null,
  plate_g: null,
  rank: 0,
  helping: 1,
  dish_id: 'bowl',
  chosen: [],
  target: { protein_g: 40, carbohydrate_g: 50, fat_g: null, kcal: 700 },
  cells: [
    cell('rice', 151),
    cell('meat', 80, { pinned_g: 80 }),
    cell('nuts', 0, { left_out: [{ word: 'nuts' }] }),
  ],
  gauges: [],
  ...more,
});
const plan = {
  batch: { step_g: 5, packed_at: null },
  dishes: [
    {
      id: 'bowl',
      name: 'Bowl',
      parts: ['rice', 'meat', 'nuts'].map((component_id) => ({ component_id, unit_is_g: null, group: null })),
    },
  ],
  components: [
    { id: 'rice', name: 'Rice' },
    { id: 'meat', name: 'Meat' },
    { id: 'nuts', name: 'Nuts' },
  ],
  rows: [row('r1', 'ada'), row('r2', 'ada'), row('r3', 'bo')],
} as unknown as Plan;
const [first] = plan.rows;
if (!first) throw new Error('no row');
const grams: Column = { kind: 'cell', componentId: 'rice', unitG: null };
const pieces: Column = { kind: 'cell', componentId: 'rice', unitG: 60 };
const protein: Column = { kind: 'target', nutrient: 'protein_g' };

it('of a group there is a column for each part that a container takes', () => {
  const dish = {
    id: 'bowl',
    name: 'Bowl',
    groups: [{ name: 'base', takes: 1 }],
    parts: ['rice', 'meat', 'nuts'].map((component_id) => ({
      component_id,
      unit_is_g: null,
      group: component_id === 'nuts' ? null : 'base',
    })),
  };
  const grouped = { ...plan, dishes: [dish] } as unknown as Plan;
  const at = (chosen: string[]) => columnsOf(grouped, { dish_id: 'bowl', chosen }).slice(1, 3);
  expect(at(['meat'])).toMatchObject([
    { kind: 'cell', componentId: 'meat' },
    { kind: 'cell', componentId: 'nuts' },
  ]);
  expect(at([])).toMatchObject([{ kind: 'open', group: 'base' }, { kind: 'cell' }]);
});

it('another dish has as many columns, and says which it does not have', () => {
  const soup = { id: 'soup', name: 'Soup', parts: [{ component_id: 'rice', unit_is_g: 60, group: null }] };
  const two = {
    ...plan,
    dishes: [...plan.dishes, soup],
    rows: [...plan.rows, row('r4', 'ada', { dish_id: 'soup' })],
  } as unknown as Plan;
  expect(
    columnsOf(two, { dish_id: 'soup', chosen: [] })
      .map(({ kind }) => kind)
      .slice(0, 5),
  ).toEqual(['count', 'cell', 'none', 'none', 'target']);
  expect(linesOf(two, new Set(), false).map(({ kind }) => kind)).toEqual([
    'dish',
    'row',
    'row',
    'row',
    'totals',
    'dish',
    'row',
    'totals',
  ]);
  expect(linesOf(two, new Set(['bowl']), false).map(({ kind }) => kind)).toEqual([
    'dish',
    'dish',
    'row',
    'totals',
  ]);
});

it('columns are the count, each component, each macro', () => {
  expect(columnsOf(plan, first).map(({ kind }) => kind)).toEqual([
    'count',
    'cell',
    'cell',
    'cell',
    'target',
    'target',
    'target',
    'target',
  ]);
});

describe('what is typed into a cell', () => {
  it('pins grams, or frees them', () => {
    const change = typedChange(first, grams, readTyped(grams, '120').value);
    expect(change).toMatchObject({ kind: 'pin', component_id: 'rice', grams: 120 });
    expect(typedChange(first, grams, null)).toMatchObject({ grams: null });
  });
  it('counts pieces by their weight', () => {
    expect(typedChange(first, pieces, readTyped(pieces, '2.5').value)).toMatchObject({ grams: 150 });
  });
  it('changes one figure of a target and keeps the others', () => {
    expect(typedChange(first, protein, 45)).toEqual({
      kind: 'target',
      row_id: 'r1',
      protein_g: 45,
      carbohydrate_g: 50,
      fat_g: null,
      kcal: 700,
    });
  });
});

describe('a step more or less', () => {
  it('goes from the nearest whole step of the scale', () => {
    expect(nudge(plan, 'r1', grams, 1)).toMatchObject([{ grams: 155 }]);
    expect(nudge(plan, 'r1', grams, -1)).toMatchObject([{ grams: 145 }]);
  });
  it('never goes below nothing, nor where nothing is aimed at', () => {
    expect(nudge(plan, 'r1', { kind: 'target', nutrient: 'fat_g' }, 1)).toEqual([]);
    expect(nudge(plan, 'r1', { kind: 'cell', componentId: 'nuts', unitG: null }, 1)).toEqual([]);
    expect(nudge(plan, 'gone', grams, 1)).toEqual([]);
  });
});

it('a pin is set at what the cell holds, and freed again', () => {
  expect(togglePin(plan, 'r1', 'rice')).toMatchObject([{ grams: 151 }]);
  expect(togglePin(plan, 'r1', 'meat')).toMatchObject([{ grams: null }]);
  expect(togglePin(plan, 'r1', 'nuts')).toEqual([]);
});

it('the lines of a client fold into one', () => {
  expect([...foldable(plan)]).toEqual(['ada']);
  expect(linesOf(plan, new Set(['ada']), false).map(({ kind }) => kind)).toEqual(['folded', 'row']);
  expect(linesOf(plan, new Set(), false)).toHaveLength(3);
});
