import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

/** How often a list that somebody else may be ticking is asked for [ms]. */
const ASKED_EVERY_MS = 4000;

export const tripsQuery = queryOptions({
  queryKey: ['trips'],
  queryFn: () => ask(api.GET('/api/v1/trips')),
});

export const tripQuery = (id: string) =>
  queryOptions({
    queryKey: ['trips', id],
    queryFn: () => ask(api.GET('/api/v1/trips/{trip_id}', { params: { path: { trip_id: id } } })),
    refetchInterval: ({ state }) => (state.data?.trip.finished_at === null ? ASKED_EVERY_MS : false),
  });

export const substitutesQuery = (trip: string, food: string) =>
  queryOptions({
    queryKey: ['trips', trip, 'substitutes', food],
    staleTime: 60_000,
    queryFn: () =>
      ask(
        api.GET('/api/v1/trips/{trip_id}/foods/{food_id}/substitutes', {
          params: { path: { trip_id: trip, food_id: food } },
        }),
      ),
  });
