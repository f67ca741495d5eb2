import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';
import { queryClient } from '~/api/query-client';

export const houseQuery = queryOptions({
  queryKey: ['house'],
  queryFn: () => ask(api.GET('/api/v1/house')),
});

export const entriesQuery = (id: string) =>
  queryOptions({
    queryKey: ['house', id],
    queryFn: () => ask(api.GET('/api/v1/house/lots/{lot_id}/entries', { params: { path: { lot_id: id } } })),
  });

/** The house as it is now; what stands on it is asked anew. */
export function keepHouse(house: Schemas['HouseView']) {
  queryClient.setQueryData(houseQuery.queryKey, house);
  void queryClient.invalidateQueries({
    queryKey: ['house'],
    predicate: ({ queryKey }) => queryKey.length > 1,
  });
  void queryClient.invalidateQueries({ queryKey: ['plans'] });
}
