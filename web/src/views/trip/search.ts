import { GROUPINGS, type Grouping } from '~/views/trip/walking';

/** How a list is walked: in which order, and whether what is in the basket is left out. */
export type TripSearch = { by?: Grouping | undefined; left?: boolean | undefined };

export function readWalk(search: Record<string, unknown>): TripSearch {
  const by = typeof search.by === 'string' && search.by in GROUPINGS ? (search.by as Grouping) : undefined;
  return { ...(by ? { by } : {}), ...(search.left === true ? { left: true } : {}) };
}
