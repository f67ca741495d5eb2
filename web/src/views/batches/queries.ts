import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

export const batchesQuery = queryOptions({
  queryKey: ['batches'],
  queryFn: () => ask(api.GET('/api/v1/batches')),
});

/** What is due next over all batches; forgotten with their list. */
export const dueQuery = queryOptions({
  queryKey: [...batchesQuery.queryKey, 'due'],
  queryFn: () => ask(api.GET('/api/v1/due')),
});

export const askPlan = (id: string) =>
  ask(api.GET('/api/v1/batches/{batch_id}/plan', { params: { path: { batch_id: id } } }));

export const planQuery = (id: string) =>
  queryOptions({ queryKey: ['plans', id], queryFn: () => askPlan(id) });
