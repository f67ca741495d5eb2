import { textsOf } from '~/lib/search';

export type Order = 'nearest' | 'recipe' | 'client';
export type WhoCanEatSearch = {
  sort?: Order;
  recipe?: string;
  client?: string;
  show?: 'fits' | 'not' | undefined;
  /** A line for each answer, or a grid of clients by recipes. */
  as?: 'grid' | undefined;
};

/** What the address of the table narrows it to. */
export function readWhoCanEat(search: Record<string, unknown>): WhoCanEatSearch {
  const found: WhoCanEatSearch = textsOf(search, ['recipe', 'client']);
  if (search.sort === 'recipe' || search.sort === 'client') found.sort = search.sort;
  if (search.show === 'fits' || search.show === 'not') found.show = search.show;
  if (search.as === 'grid') found.as = search.as;
  return found;
}
