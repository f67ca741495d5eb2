import { expect, it } from 'vitest';
import { foodInput, newFood, newMeasure, newPack, supplyInput } from '~/views/pantry/draft';

const sent = (draft: Parameters<typeof foodInput>[0]) => JSON.parse(JSON.stringify(foodInput(draft).body));

it('a label for a weight says nothing of millilitres', () => {
  const food = newFood();
  const { label } = sent({
    ...food,
    label: { ...food.label, ml_weighs_g: '0.9', kcal: '250', potassium_mg: '12' },
  });
  expect(label).toMatchObject({
    serving_g: 100,
    serving_ml: null,
    ml_weighs_g: null,
    kcal: 250,
    potassium_mg: 12,
    fat_g: null,
  });
});

it('a label for a volume says what a millilitre weighs', () => {
  const food = newFood();
  const { label } = sent({
    ...food,
    by_volume: true,
    label: { ...food.label, serving_ml: '30', ml_weighs_g: '0.92' },
  });
  expect(label).toMatchObject({ serving_ml: 30, ml_weighs_g: 0.92 });
});

it('nothing but what the server knows is sent', () => {
  expect(Object.keys(sent(newFood())).sort()).toEqual([
    'allergens',
    'copied_from',
    'diet_tags',
    'group',
    'label',
    'measures',
    'method',
    'name',
    'note',
    'other_names',
    'packs',
    'state',
    'version',
  ]);
});

it('a supply is read field by field', () => {
  const { body, faults } = supplyInput({
    measures: [{ ...newMeasure(), name: 'cup', grams: '180' }],
    packs: [{ ...newPack(), name: 'tin', grams: '400', drained_g: 'half', price: '1,20' }],
  });
  expect([...faults.keys()]).toEqual(['/packs/0/drained_g']);
  expect(body).toBeUndefined();
});
