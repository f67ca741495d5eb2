import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

/** The newest `limit` changes of a batch after version `since`, and what undo and redo would do next. */
export const askHistory = (id: string, limit: number, since = 0) =>
  ask(
    api.GET('/api/v1/batches/{batch_id}/history', {
      params: { path: { batch_id: id }, query: { limit, since } },
    }),
  );

/** What undo and redo would do next. */
export const stepsQuery = (id: string) =>
  queryOptions({
    queryKey: ['plans', id, 'steps'],
    queryFn: async () => (await askHistory(id, 0)).steps,
  });

export const historyQuery = (id: string, version: number, limit: number) =>
  queryOptions({
    queryKey: ['plans', id, 'history', version, limit],
    queryFn: () => askHistory(id, limit),
    placeholderData: (before: Schemas['HistoryView'] | undefined) => before,
  });

/** Ways out of a missed target, and the reach map: of one version of the plan. */
export const waysQuery = (id: string, rowId: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'ways', rowId, version],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/rows/{row_id}/ways', {
          params: { path: { batch_id: id, row_id: rowId } },
        }),
      ),
  });

export const planDaysQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'days', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/days', { params: { path: { batch_id: id } } })),
    placeholderData: (before: Schemas['DayView'][] | undefined) => before,
  });

export const comparedQuery = (id: string, other: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'compared', other, version],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/compared', {
          params: { path: { batch_id: id }, query: { other } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const filledQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'filled', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/filled', { params: { path: { batch_id: id } } })),
  });

export const reachQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'reach', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/reach', { params: { path: { batch_id: id } } })),
  });

/** It counts where nobody has set the time zone of the kitchen. */
export const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** A batch on its cook day, by one version of its plan. */
export const cookingQuery = (id: string, version: number | undefined) =>
  queryOptions({
    queryKey: ['plans', id, 'cooking', version],
    enabled: version !== undefined,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/cooking', {
          params: { path: { batch_id: id }, query: { zone: ZONE } },
        }),
      ),
  });

/** A batch as it is handed over. */
export const handOverQuery = (id: string) =>
  queryOptions({
    queryKey: ['plans', id, 'hand-over'],
    queryFn: () =>
      ask(api.GET('/api/v1/batches/{batch_id}/hand-over', { params: { path: { batch_id: id } } })),
  });

/** A batch at the scale. */
export const fillingQuery = (id: string) =>
  queryOptions({
    queryKey: ['plans', id, 'filling'],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/filling', { params: { path: { batch_id: id } } })),
  });
