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
