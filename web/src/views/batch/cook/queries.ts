import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';
import { ZONE } from '~/views/batch/frame/queries';

/** What is begun before the day, and the day, as a file for a calendar. */
export const calendarOf = (id: string) =>
  `/api/v1/batches/${id}/cooking/calendar.ics?zone=${encodeURIComponent(ZONE)}`;

/** How a component of a batch is made. */
export const potStepsQuery = (id: string, component: string) =>
  queryOptions({
    queryKey: ['plans', id, 'cooking', 'steps', component],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/components/{component_id}/steps', {
          params: { path: { batch_id: id, component_id: component } },
        }),
      ),
  });

/** When all would be ready with one more helper; asked for, not known beforehand. */
export const helperQuery = (id: string, version: number | undefined) =>
  queryOptions({
    queryKey: ['plans', id, 'cooking', version, 'helper'],
    enabled: false,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/cooking/helper', {
          params: { path: { batch_id: id }, query: { zone: ZONE } },
        }),
      ),
  });

/** What was noted on a cook day; `noted` changes with it. */
export const logQuery = (id: string, noted: number) =>
  queryOptions({
    queryKey: ['plans', id, 'cooking', 'log', noted],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/cooking/log', {
          params: { path: { batch_id: id }, query: { zone: ZONE } },
        }),
      ),
    placeholderData: (before: Schemas['CookLogView'] | undefined) => before,
  });
