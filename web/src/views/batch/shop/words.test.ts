import { describe, expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { listText, packWords, sections } from '~/views/batch/shop/words';

const item = (of: Partial<Schemas['ItemView']>): Schemas['ItemView'] => ({
  food_id: of.name ?? '',
  name: 'Onion',
  state: 'raw',
  aisle: 'produce',
  in_cupboard: false,
  buy_early: true,
  keeps_days: 30,
  grams: 681.2,
  needs: [],
  choices: [],
  by_net: false,
  ...of,
});

const packed = {
  packs: [
    { name: 'tray', grams: 400, count: 3 },
    { name: 'large tray', grams: 1000, count: 2 },
  ],
  left_g: 15,
  cost: 23.1,
};

describe('a shopping list in words', () => {
  it('tells packs', () => {
    expect(packWords(packed)).toBe('3 × tray 400 g + 2 × large tray 1,000 g');
  });

  it('keeps the order of the aisles, and the cupboard for the end', () => {
    const items = [
      item({ name: 'Salt', in_cupboard: true }),
      item({}),
      item({ name: 'Turkey', aisle: 'meat' }),
    ];
    expect(sections(items).map(({ title, items: of }) => [title, of.map((one) => one.name)])).toEqual([
      ['produce', ['Onion']],
      ['meat', ['Turkey']],
      ['look in the cupboard first', ['Salt']],
    ]);
    expect(sections([])).toEqual([]);
  });

  it('is a text to send', () => {
    const items = [item({}), item({ name: 'Turkey', aisle: 'meat', choices: [packed] })];
    expect(listText('Shop for Sunday', items)).toBe(
      'Shop for Sunday\n\nProduce\n- 681 g Onion, raw\n\nMeat\n- 3 × tray 400 g + 2 × large tray 1,000 g Turkey, raw (23.10)',
    );
  });
});
