import { textsOf } from '~/lib/search';

export type PlanSearch = { view?: 'days' | 'beside'; other?: string; panel?: string };

/** Which view and panel of a plan its address opens. */
export function readPlan(search: Record<string, unknown>): PlanSearch {
  const found: PlanSearch = textsOf(search, ['other', 'panel']);
  if (search.view === 'days' || search.view === 'beside') found.view = search.view;
  return found;
}
