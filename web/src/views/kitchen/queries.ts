import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export const settingsQuery = queryOptions({
  queryKey: ['settings'],
  queryFn: () => ask(api.GET('/api/v1/settings')),
});

export type Rules = {
  energy_rule: Schemas['WorkspaceInput']['energy_rule'];
  carbohydrate: Schemas['WorkspaceInput']['carbohydrate'];
};

export const switchQuery = (rules: Rules) =>
  queryOptions({
    queryKey: ['settings', 'switch', rules],
    queryFn: () => ask(api.GET('/api/v1/settings/switch', { params: { query: rules } })),
  });

export const kitchensQuery = queryOptions({
  queryKey: ['kitchens'],
  queryFn: () => ask(api.GET('/api/v1/kitchens')),
});

export const kitchenQuery = (id: string) =>
  queryOptions({
    queryKey: ['kitchens', id],
    queryFn: () => ask(api.GET('/api/v1/kitchens/{kitchen_id}', { params: { path: { kitchen_id: id } } })),
  });

/** Equipment as it usually is. */
export const equipmentQuery = queryOptions({
  queryKey: ['equipment'],
  staleTime: Number.POSITIVE_INFINITY,
  queryFn: () => ask(api.GET('/api/v1/equipment')),
});
