import type { Schemas } from '~/api/client';
import { price, weight } from '~/lib/format';

type Item = Schemas['ItemView'];

/** "2 × tray 400 g + 1 × large tray 1,000 g" */
export const packWords = (choice: Schemas['PacksView']) =>
  choice.packs.map((one) => `${one.count} × ${one.name} ${weight(one.grams)}`).join(' + ');

/** What to take of a food: its packs, or grams where it has none. */
export const takeWords = ({ choices, grams }: Item) => (choices[0] ? packWords(choices[0]) : weight(grams));

/** What is bought by aisle, then what a look in the cupboard comes before. */
export function sections(items: Item[]): { title: string; items: Item[] }[] {
  const toBuy = items.filter((item) => !item.in_cupboard);
  const aisles = [...new Set(toBuy.map((item) => item.aisle))];
  const inCupboard = items.filter((item) => item.in_cupboard);
  return [
    ...aisles.map((aisle) => ({ title: aisle, items: toBuy.filter((item) => item.aisle === aisle) })),
    ...(inCupboard.length ? [{ title: 'look in the cupboard first', items: inCupboard }] : []),
  ];
}

/** The list as plain text, to be sent to whoever shops. */
export const listText = (title: string, items: Item[]) =>
  [
    title,
    ...sections(items).flatMap((section) => [
      '',
      section.title.charAt(0).toUpperCase() + section.title.slice(1),
      ...section.items.map((item) => {
        const cost = item.choices[0]?.cost;
        return `- ${takeWords(item)} ${item.name}, ${item.state}${cost === null || cost === undefined ? '' : ` (${price(cost)})`}`;
      }),
    ]),
  ].join('\n');
