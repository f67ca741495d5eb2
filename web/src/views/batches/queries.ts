import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

export const batchesQuery = queryOptions({
  queryKey: ['batches'],
  queryFn: () => ask(api.GET('/api/v1/batches')),
});
