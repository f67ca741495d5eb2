import type { Schemas } from '~/api/client';
import { weight } from '~/lib/format';
import { onePackWords, packWords, shopOf } from '~/views/batch/shop/words';

type Trip = Schemas['TripView'];
type Item = Schemas['ItemView'];
type State = Schemas['ItemStateView'];
export type Entry = Schemas['TripEntryInput'];

/** A food of the list with how it stands with it. */
export type Row = { item: Item; state: State };

/** The trip as it is once what waits in this browser has arrived: nobody waits for the network to see a tick. */
export function withEntries(trip: Trip, waiting: readonly Entry[], me: string): Trip {
  const states = new Map(trip.states.map((state) => [state.item, state]));
  const own = new Map(trip.own.map((one) => [one.item, one]));
  const dropped = new Map(trip.dropped.map((one) => [one.item, one.bought]));
  for (const entry of waiting) {
    const known = own.get(entry.item);
    if (entry.event === 'added')
      own.set(entry.item, { item: entry.item, name: entry.text, state: blank(entry.item) });
    else if (entry.event === 'removed') own.delete(entry.item);
    else if (dropped.has(entry.item)) dropped.set(entry.item, entry.bought ? shown(entry.bought) : null);
    else if (known) own.set(entry.item, { ...known, state: after(known.state, entry, me) });
    else states.set(entry.item, after(states.get(entry.item) ?? blank(entry.item), entry, me));
  }
  return {
    ...trip,
    states: trip.states.map((state) => states.get(state.item) ?? state),
    own: [...own.values()],
    dropped: trip.dropped.map((one) => ({ ...one, bought: dropped.get(one.item) ?? null })),
  };
}

const blank = (item: string): State => ({
  item,
  bought: null,
  bought_by: [],
  doubly: false,
  is_missing: false,
  note: '',
  was_g: null,
});

function after(state: State, entry: Entry, me: string): State {
  switch (entry.event) {
    case 'bought':
      return {
        ...state,
        bought: entry.bought ? shown(entry.bought) : null,
        bought_by: [...new Set([...state.bought_by, me])],
        is_missing: false,
      };
    case 'not bought':
      return { ...state, bought: null, bought_by: [], doubly: false, is_missing: false };
    case 'not there':
      return { ...state, bought: null, bought_by: [], doubly: false, is_missing: true };
    case 'note':
      return { ...state, note: entry.text };
    default:
      return state;
  }
}

const asNumber = (value: number | string) => Number(value);

const shown = (bought: Schemas['BoughtInput']): Schemas['BoughtView'] => {
  const packs = (bought.packs ?? []).map((pack) => ({
    name: pack.name,
    grams: asNumber(pack.grams),
    count: pack.count,
    price: pack.price ?? null,
    shop: pack.shop,
    sold: pack.sold,
  }));
  const isPriced = packs.length > 0 && packs.every((pack) => pack.price !== null);
  return {
    food_id: bought.food_id,
    name: '',
    grams: asNumber(bought.grams),
    packs,
    cost: isPriced ? packs.reduce((sum, pack) => sum + (pack.price ?? 0) * pack.count, 0) : null,
  };
};

/** What goes into the basket when an item is ticked: the packs that the list says, or its grams. */
export function asListed(item: Item): Schemas['BoughtInput'] & { packs: Schemas['PackBoughtInput'][] } {
  const packs = item.choices[0]?.packs.map(({ name, grams, count, price, shop, sold }) => ({
    name,
    grams,
    count,
    price,
    shop,
    sold,
  }));
  const inPacks = packs?.reduce((sum, pack) => sum + pack.grams * pack.count, 0);
  return { food_id: item.food_id, grams: inPacks ?? item.to_buy_g, packs: packs ?? [] };
}

type Pack = Schemas['PackBoughtInput'];

/** What one costs: of what is weighed, by its weight [g] in proportion; of a pack, what it costs. */
export function priceByWeight({ price, grams, sold }: Pack, weighed: number | string | null): number | null {
  if (price == null || sold !== 'by weight' || typeof weighed !== 'number') return price ?? null;
  return Math.round((100 * price * weighed) / asNumber(grams)) / 100;
}

/** How what was bought is sold: as the list has it, or in packs where it is called otherwise or is several. */
export const soldAs = (listed: Pack | undefined, name: string, count: number): Schemas['Sold'] =>
  listed?.sold && name === listed.name && (listed.sold !== 'by weight' || count === 1)
    ? listed.sold
    : 'by the pack';

/** What is in the basket of an item, in words; with the food where it is another. */
export function boughtWords(bought: Schemas['BoughtView'], foodId: string) {
  const packs = (bought.packs ?? []).map(onePackWords);
  const amount = packs.length ? packs.join(' + ') : weight(bought.grams);
  return bought.food_id === foodId ? amount : `${amount} of ${bought.name || 'another food'}`;
}

export type Grouping = 'aisle' | 'shop' | 'when' | 'batch' | 'component';

export const GROUPINGS: Record<Grouping, string> = {
  aisle: 'Aisle',
  shop: 'Shop',
  when: 'When',
  batch: 'Batch',
  component: 'Component',
};

const together = (names: string[]) => [...new Set(names)].join(' and ');

function groupOf({ item }: Row, by: Grouping): string {
  switch (by) {
    case 'aisle':
      return item.ask_staple ? 'look in the cupboard first' : item.aisle;
    case 'shop':
      return shopOf(item.choices[0]) || 'any shop';
    case 'when':
      return item.buy_early ? 'can be bought early' : 'on the day, or the day before';
    case 'batch':
      return together(item.needs.map((need) => need.batch));
    case 'component':
      return together(item.needs.map((need) => need.component));
  }
}

/** What is to buy, in groups; groups come in the order of their first item, which is that of the aisles. */
export function grouped(rows: Row[], by: Grouping): { title: string; rows: Row[] }[] {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const title = groupOf(row, by);
    groups.set(title, [...(groups.get(title) ?? []), row]);
  }
  return [...groups].map(([title, of]) => ({ title, rows: of }));
}

/** The rows of a trip: what is to buy, and what is in the basket though nothing of it is to buy any more. */
export const rowsOf = (trip: Trip): Row[] =>
  trip.shopping.items
    .map((item, place) => ({ item, state: trip.states[place] ?? blank(item.food_id) }))
    .filter(({ item, state }) => item.to_buy_g > 0 || state.bought);

/** What the packs of the list are called on a row. */
export const toTake = (item: Item) => (item.choices[0] ? packWords(item.choices[0]) : weight(item.to_buy_g));
