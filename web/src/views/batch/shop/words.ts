import type { Schemas } from '~/api/client';
import { day, price, weight } from '~/lib/format';

type Item = Schemas['ItemView'];

type Counted = Pick<Schemas['PackBoughtView'], 'count' | 'name' | 'grams' | 'sold'>;

/** "2 × tray 400 g", "7 × courgette, about 196 g", "1,240 g loose". */
export function onePackWords({ count, name, grams, sold }: Counted) {
  if (sold === 'by weight') return `${weight(grams)} ${name}`.trim();
  const about = sold === 'by the piece' ? ', about' : '';
  return `${count} × ${name}${about} ${weight(grams)}`.replace('  ', ' ');
}

/** "2 × tray 400 g + 1 × large tray 1,000 g"; with the shops where they differ. */
export function packWords({ packs }: Schemas['PacksView']) {
  const isInMany = new Set(packs.map((one) => one.shop)).size > 1;
  return packs
    .map((one) => `${onePackWords(one)}${isInMany && one.shop ? ` (${one.shop})` : ''}`)
    .join(' + ');
}

/** The one shop of a choice; "" where it is any, or where they differ. */
export function shopOf(choice: Schemas['PacksView'] | undefined) {
  const shops = [...new Set(choice?.packs.map((one) => one.shop))];
  return shops.length === 1 ? (shops[0] ?? '') : '';
}

/** What to take of a food: its packs, or grams where it has none. */
export const takeWords = ({ choices, to_buy_g: toBuy }: Item) =>
  toBuy === 0 ? 'nothing' : choices[0] ? packWords(choices[0]) : weight(toBuy);

/** Prices of a choice that may have changed since they were seen, with the day; "" where none is. */
export function oldWords({ packs }: Schemas['PacksView']) {
  const old = packs.filter((one) => one.is_old);
  if (old.length === 0) return '';
  const days = [
    ...new Set(old.map((one) => (one.seen_on ? `seen on ${day(one.seen_on)}` : 'of no known day'))),
  ];
  return `price ${days.join(' and ')}`;
}

/** How much more or less a choice costs than the one that is bought. */
export function dearerWords(one: Schemas['PacksView'], bought: Schemas['PacksView'] | undefined) {
  const apart = (one.cost ?? 0) - (bought?.cost ?? 0);
  return `${price(Math.abs(apart))} ${apart < 0 ? 'less' : 'more'}`;
}

/** What is bought by aisle, then what a look in the cupboard comes before, then what is in the house. */
export function sections(items: Item[]): { title: string; items: Item[] }[] {
  const there = items.filter((item) => item.to_buy_g === 0);
  const asked = items.filter((item) => item.to_buy_g > 0 && item.ask_staple);
  const toBuy = items.filter((item) => item.to_buy_g > 0 && !item.ask_staple);
  const aisles = [...new Set(toBuy.map((item) => item.aisle))];
  return [
    ...aisles.map((aisle) => ({ title: aisle, items: toBuy.filter((item) => item.aisle === aisle) })),
    ...(asked.length ? [{ title: 'look in the cupboard first', items: asked }] : []),
    ...(there.length ? [{ title: 'in the house already', items: there }] : []),
  ];
}

/** The list as plain text, to be sent to whoever shops. */
export const listText = (title: string, items: Item[]) =>
  [
    title,
    ...sections(items.filter((item) => item.to_buy_g > 0)).flatMap((section) => [
      '',
      section.title.charAt(0).toUpperCase() + section.title.slice(1),
      ...section.items.map((item) => {
        const cost = item.choices[0]?.cost;
        return `- ${takeWords(item)} ${item.name}, ${item.state}${cost === null || cost === undefined ? '' : ` (${price(cost)})`}`;
      }),
    ]),
  ].join('\n');
