import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export type Kind = Schemas['ContainerKindView'];

/** The kinds of containers of the house, and where they are. */
export const containersQuery = queryOptions({
  queryKey: ['containers'],
  queryFn: () => ask(api.GET('/api/v1/containers')),
});

/** Whether they suffice for a batch. */
export const batchContainersQuery = (id: string, version: number | undefined) =>
  queryOptions({
    queryKey: ['containers', 'batch', id, version],
    enabled: version !== undefined,
    queryFn: () =>
      ask(api.GET('/api/v1/batches/{batch_id}/containers', { params: { path: { batch_id: id } } })),
    placeholderData: (before: Schemas['BatchContainersView'] | undefined) => before,
  });
