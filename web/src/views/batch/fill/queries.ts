import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';
import type { Place } from '~/views/batch/fill/sequence';

/** What would follow if a reading were accepted. */
export const triedQuery = (id: string, place: Place | null, grams: number | null, facts: number) =>
  queryOptions({
    queryKey: ['plans', id, 'filling', 'tried', place, grams, facts],
    enabled: place !== null && grams !== null,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/filling/tried', {
          params: {
            path: { batch_id: id },
            query: {
              row_id: place?.row ?? '',
              container: place?.number ?? 1,
              component_id: place?.part ?? '',
              grams: grams ?? 0,
            },
          },
        }),
      ),
    placeholderData: (before: Schemas['FillContainerView'] | undefined) => before,
  });

/** How near the filling came; `facts` changes with it. */
export const differencesQuery = (id: string, facts: number) =>
  queryOptions({
    queryKey: ['plans', id, 'filling', 'differences', facts],
    queryFn: () =>
      ask(api.GET('/api/v1/batches/{batch_id}/filling/differences', { params: { path: { batch_id: id } } })),
  });

/** What was noted by the time of fact number `facts`. */
export const fillLogQuery = (id: string, facts: number) =>
  queryOptions({
    queryKey: ['plans', id, 'filling', 'log', facts],
    queryFn: () =>
      ask(api.GET('/api/v1/batches/{batch_id}/filling/log', { params: { path: { batch_id: id } } })),
    placeholderData: (before: Schemas['FillLogEntryView'][] | undefined) => before,
  });
