import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export const clientsQuery = queryOptions({
  queryKey: ['clients'],
  queryFn: () => ask(api.GET('/api/v1/clients')),
});

export const clientQuery = (id: string) =>
  queryOptions({
    queryKey: ['clients', id],
    queryFn: () => ask(api.GET('/api/v1/clients/{client_id}', { params: { path: { client_id: id } } })),
  });

/** The days of a client as typed, and what shares of them come to. */
export const daysQuery = (client: Schemas['ClientInput']) =>
  queryOptions({
    queryKey: ['client-days', client.days, client.targets, client.tolerance],
    queryFn: () => ask(api.POST('/api/v1/clients/days', { body: client })),
    placeholderData: (before: Schemas['DaysPreview'] | undefined) => before,
    gcTime: 30_000,
    retry: false,
  });

/** What words that were typed keep out of this kitchen's foods. */
export const wordsQuery = (words: string[]) =>
  queryOptions({
    queryKey: ['client-words', words],
    queryFn: () => ask(api.POST('/api/v1/clients/words', { body: { words } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const targetHistoryQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['clients', id, 'targets', version],
    queryFn: () =>
      ask(api.GET('/api/v1/clients/{client_id}/targets', { params: { path: { client_id: id } } })),
  });

export const scaledQuery = (targetId: string, factor: number) =>
  queryOptions({
    queryKey: ['scaled', targetId, factor],
    queryFn: () =>
      ask(
        api.GET('/api/v1/targets/{target_id}/scaled', {
          params: { path: { target_id: targetId }, query: { factor } },
        }),
      ),
    retry: false,
  });
