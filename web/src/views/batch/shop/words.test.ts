import { describe, expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { dearerWords, listText, oldWords, packWords, sections, shopOf } from '~/views/batch/shop/words';

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
  ask_staple: false,
  in_house_g: 0,
  in_house: [],
  held: [],
  to_buy_g: of.grams ?? 681.2,
  picked: '',
  pot_id: null,
  choices: [],
  passed_over: [],
  leaves_more: false,
  enough: [],
  by_net: false,
  ...of,
});

const pack = { price: 3.1, shop: '', seen_on: '2026-11-20', is_old: false, sold: 'by the pack' as const };
const packed = {
  packs: [
    { ...pack, name: 'tray', grams: 400, count: 3 },
    { ...pack, name: 'large tray', grams: 1000, count: 2 },
  ],
  left_g: 15,
  cost: 23.1,
};

describe('a shopping list in words', () => {
  it('tells packs', () => {
    expect(packWords(packed)).toBe('3 × tray 400 g + 2 × large tray 1,000 g');
  });

  it('tells pieces and what is weighed', () => {
    const piece = { ...pack, name: 'courgette', grams: 196, count: 7, sold: 'by the piece' as const };
    const loose = { ...pack, name: 'loose', grams: 1240, count: 1, sold: 'by weight' as const };
    expect(packWords({ ...packed, packs: [piece, loose] })).toBe(
      '7 × courgette, about 196 g + 1,240 g loose',
    );
  });

  it('tells what another choice costs beside the one that is bought', () => {
    expect(dearerWords({ ...packed, cost: 25 }, packed)).toBe('1.90 more');
    expect(dearerWords({ ...packed, cost: 20 }, packed)).toBe('3.10 less');
  });

  it('tells the shop once, or with each pack where they differ', () => {
    const [small, large] = packed.packs as [typeof pack & (typeof packed.packs)[0], (typeof packed.packs)[0]];
    const at = (...shops: string[]) => ({
      ...packed,
      packs: [
        { ...small, shop: shops[0] ?? '' },
        { ...large, shop: shops[1] ?? '' },
      ],
    });
    expect(packWords(at('Quay', 'Quay'))).toBe('3 × tray 400 g + 2 × large tray 1,000 g');
    expect([at('Quay', 'Quay'), at('Quay', ''), at('', ''), undefined].map(shopOf)).toEqual([
      'Quay',
      '',
      '',
      '',
    ]);
    expect(packWords(at('Quay', ''))).toBe('3 × tray 400 g (Quay) + 2 × large tray 1,000 g');
  });

  it('tells old prices with their day', () => {
    const old = { ...packed, packs: packed.packs.map((one) => ({ ...one, is_old: true })) };
    expect(oldWords(packed)).toBe('');
    expect(oldWords(old)).toBe('price seen on Fri 20 November');
    expect(oldWords({ ...old, packs: old.packs.map((one) => ({ ...one, seen_on: null })) })).toBe(
      'price of no known day',
    );
  });

  it('keeps the order of the aisles, and the cupboard for the end', () => {
    const items = [
      item({ name: 'Salt', in_cupboard: true, ask_staple: true }),
      item({}),
      item({ name: 'Rice', to_buy_g: 0, in_house_g: 681.2 }),
      item({ name: 'Turkey', aisle: 'meat' }),
    ];
    expect(sections(items).map(({ title, items: of }) => [title, of.map((one) => one.name)])).toEqual([
      ['produce', ['Onion']],
      ['meat', ['Turkey']],
      ['look in the cupboard first', ['Salt']],
      ['in the house already', ['Rice']],
    ]);
    expect(sections([])).toEqual([]);
  });

  it('is a text to send', () => {
    const items = [
      item({}),
      item({ name: 'Rice', to_buy_g: 0 }),
      item({ name: 'Turkey', aisle: 'meat', choices: [packed] }),
    ];
    expect(listText('Shop for Sunday', items)).toBe(
      'Shop for Sunday\n\nProduce\n- 681 g Onion, raw\n\nMeat\n- 3 × tray 400 g + 2 × large tray 1,000 g Turkey, raw (23.10)',
    );
  });
});
