import { textsOf } from '~/lib/search';

export type PlanSearch = { view?: 'days' | 'beside'; other?: string; panel?: string; costs?: true };

/** Which view and panel of a plan its address opens. */
export function readPlan(search: Record<string, unknown>): PlanSearch {
  const found: PlanSearch = textsOf(search, ['other', 'panel']);
  if (search.costs === true) found.costs = true;
  if (search.view === 'days' || search.view === 'beside') found.view = search.view;
  return found;
}

/** The other batches that are bought for in one trip, and what is bought beside what goes into the pots. */
export type Trip = { with?: string[]; fresh?: false; extras?: true };

export function readTrip(search: Record<string, unknown>): Trip {
  const others = Array.isArray(search.with) ? search.with.filter((one) => typeof one === 'string') : [];
  return {
    ...(others.length ? { with: others } : {}),
    ...(search.fresh === false ? { fresh: false } : {}),
    ...(search.extras === true ? { extras: true } : {}),
  };
}
