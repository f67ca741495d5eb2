import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

export const weeksQuery = (clientId: string, count: number) =>
  queryOptions({
    queryKey: ['clients', clientId, 'weeks', count],
    queryFn: () =>
      ask(
        api.GET('/api/v1/clients/{client_id}/weeks', {
          params: { path: { client_id: clientId }, query: { count } },
        }),
      ),
  });
