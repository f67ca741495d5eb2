import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

export const yieldsQuery = queryOptions({
  queryKey: ['yields'],
  queryFn: () => ask(api.GET('/api/v1/yields')),
});

export const timesQuery = queryOptions({
  queryKey: ['yields', 'times'],
  queryFn: () => ask(api.GET('/api/v1/learned-times')),
});
