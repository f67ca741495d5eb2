import { textsOf } from '~/lib/search';

export type PlanSearch = { view?: 'days' | 'beside'; other?: string; panel?: string };

/** Which view and panel of a plan its address opens. */
export function readPlan(search: Record<string, unknown>): PlanSearch {
  const found: PlanSearch = textsOf(search, ['other', 'panel']);
  if (search.view === 'days' || search.view === 'beside') found.view = search.view;
  return found;
}

/** The other batches that are bought for in one trip. */
export type Trip = { with?: string[] };

export function readTrip(search: Record<string, unknown>): Trip {
  const others = Array.isArray(search.with) ? search.with.filter((one) => typeof one === 'string') : [];
  return others.length ? { with: others } : {};
}
