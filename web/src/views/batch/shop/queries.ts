import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

/** What to buy by one version of a plan; the plans of the others may be newer each time. */
export const shoppingQuery = (
  id: string,
  version: number | undefined,
  wanted: { with: string[]; fresh: boolean; extras: boolean },
) =>
  queryOptions({
    queryKey: ['plans', id, 'shopping', version, wanted],
    enabled: version !== undefined,
    staleTime: 0,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/shopping', {
          params: { path: { batch_id: id }, query: wanted },
        }),
      ),
  });
