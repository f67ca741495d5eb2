import { describe, expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import {
  asListed,
  boughtWords,
  type Entry,
  grouped,
  priceByWeight,
  rowsOf,
  soldAs,
  withEntries,
} from '~/views/trip/walking';

const need = (batch: string, component: string) => ({
  line_id: `${batch}${component}`,
  batch_id: batch,
  batch,
  component_id: component,
  component,
  grams: 100,
});
const item = (of: Partial<Schemas['ItemView']>): Schemas['ItemView'] => ({
  food_id: 'feta',
  name: 'Feta',
  state: 'as-sold',
  aisle: 'dairy',
  in_cupboard: false,
  ask_staple: false,
  buy_early: false,
  keeps_days: 20,
  grams: 500,
  needs: [need('Sunday', 'Salad')],
  in_house_g: 0,
  in_house: [],
  held: [],
  to_buy_g: 500,
  picked: '',
  pot_id: null,
  choices: [],
  passed_over: [],
  leaves_more: false,
  enough: [],
  by_net: false,
  ...of,
});
const pack = {
  name: 'tub',
  grams: 300,
  count: 2,
  price: 3.8,
  shop: 'Quay',
  seen_on: null,
  is_old: true,
  sold: 'by the pack' as const,
};
const state = (of: string): Schemas['ItemStateView'] => ({
  item: of,
  bought: null,
  bought_by: [],
  doubly: false,
  is_missing: false,
  note: '',
  was_g: null,
});
const trip = (...items: Schemas['ItemView'][]) =>
  ({
    shopping: { items },
    states: items.map((one) => state(one.food_id)),
    own: [],
    dropped: [],
  }) as unknown as Schemas['TripView'];
const entry = (event: Entry['event'], of: Partial<Entry> = {}): Entry => ({
  item: 'feta',
  event,
  text: '',
  ...of,
});

describe('a list that is walked', () => {
  it('prices what is weighed by its weight, and takes several of it for packs', () => {
    const loose = { name: 'loose', grams: 1240, count: 1, price: 3.1, shop: '', sold: 'by weight' as const };
    expect(priceByWeight(loose, 2480)).toBe(6.2);
    expect([priceByWeight(loose, null), priceByWeight(loose, '500 g+20 g')]).toEqual([3.1, 3.1]);
    expect(priceByWeight({ ...loose, sold: 'by the pack' }, 2480)).toBe(3.1);
    expect(soldAs(loose, 'loose', 1)).toBe('by weight');
    expect([soldAs(loose, 'loose', 2), soldAs(loose, 'tray', 1), soldAs(undefined, '', 1)]).toEqual([
      'by the pack',
      'by the pack',
      'by the pack',
    ]);
  });

  it('shows what waits of what no batch needs any more', () => {
    const gone = { item: 'leek', name: 'Leek', was_g: 300, bought: null };
    const bought = { food_id: 'leek', grams: 300, packs: [] };
    const waits = { ...trip(), dropped: [gone] };
    const [inBasket] = withEntries(waits, [entry('bought', { item: 'leek', bought })], 'Ines').dropped;
    expect(inBasket?.bought?.grams).toBe(300);
    const put = [entry('bought', { item: 'leek', bought }), entry('not bought', { item: 'leek' })];
    expect(withEntries(waits, put, 'Ines').dropped[0]?.bought).toBeNull();
  });

  it('shows what waits as if it had arrived', () => {
    const feta = item({ choices: [{ packs: [pack], left_g: 100, cost: 7.6 }] });
    const bought = asListed(feta);
    expect(bought).toMatchObject({ food_id: 'feta', grams: 600 });
    const ticked = withEntries(trip(feta), [entry('bought', { bought })], 'Tamsin');
    expect(ticked.states[0]).toMatchObject({ bought: { grams: 600, cost: 7.6 }, bought_by: ['Tamsin'] });
    const back = withEntries(trip(feta), [entry('bought', { bought }), entry('not bought')], 'Tamsin');
    expect(back.states[0]?.bought).toBeNull();
    const missing = withEntries(trip(feta), [entry('note', { text: 'ask' }), entry('not there')], 'Tamsin');
    expect(missing.states[0]).toMatchObject({ is_missing: true, note: 'ask' });
  });

  it('adds by hand, ticks that, and takes it off again', () => {
    const added = entry('added', { item: 'roll', text: 'kitchen roll' });
    const list = withEntries(trip(item({})), [added], 'Tamsin');
    expect(list.own.map((one) => one.name)).toEqual(['kitchen roll']);
    const ticked = withEntries(
      list,
      [entry('bought', { item: 'roll', bought: { food_id: 'roll', grams: 1, packs: [] } })],
      'Tamsin',
    );
    expect(ticked.own[0]?.state.bought).not.toBeNull();
    expect(withEntries(list, [entry('removed', { item: 'roll' })], 'Tamsin').own).toEqual([]);
  });

  it('ticks in grams where there are no packs', () => {
    expect(asListed(item({}))).toEqual({ food_id: 'feta', grams: 500, packs: [] });
  });

  it('tells what is in the basket', () => {
    const bought = { food_id: 'feta', name: 'Feta', grams: 600, packs: [pack], cost: 7.6 };
    expect(boughtWords(bought, 'feta')).toBe('2 × tub 300 g');
    expect(boughtWords({ ...bought, packs: [] }, 'brie')).toBe('600 g of Feta');
  });

  it('is grouped by aisle, shop, day, batch or component, each food once', () => {
    const rows = rowsOf(
      trip(
        item({ food_id: 'a', choices: [{ packs: [pack], left_g: 0, cost: 1 }] }),
        item({ food_id: 'b', aisle: 'meat', buy_early: true }),
        item({ food_id: 'c', needs: [need('Sunday', 'Salad'), need('Tuesday', 'Pot')] }),
        item({ food_id: 'd', ask_staple: true }),
        item({ food_id: 'e', to_buy_g: 0 }),
      ),
    );
    const by = (how: Parameters<typeof grouped>[1]) =>
      grouped(rows, how).map(({ title, rows: of }) => [title, of.map((row) => row.item.food_id).join('')]);
    expect(by('aisle')).toEqual([
      ['dairy', 'ac'],
      ['meat', 'b'],
      ['look in the cupboard first', 'd'],
    ]);
    expect(by('shop')).toEqual([
      ['Quay', 'a'],
      ['any shop', 'bcd'],
    ]);
    expect(by('when')).toEqual([
      ['on the day, or the day before', 'acd'],
      ['can be bought early', 'b'],
    ]);
    expect(by('batch')).toEqual([
      ['Sunday', 'abd'],
      ['Sunday and Tuesday', 'c'],
    ]);
    expect(by('component')).toEqual([
      ['Salad', 'abd'],
      ['Salad and Pot', 'c'],
    ]);
  });
});
