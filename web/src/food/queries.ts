import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export type FoodSearch = {
  text: string;
  group?: string | undefined;
  state?: string | undefined;
  limit: number;
};

export const foodsQuery = ({ text, group, state, limit }: FoodSearch) =>
  queryOptions({
    queryKey: ['foods', text, group, state, limit],
    queryFn: () =>
      ask(
        api.GET('/api/v1/foods', {
          params: { query: { text, limit, ...(group ? { group } : {}), ...(state ? { state } : {}) } },
        }),
      ),
    placeholderData: (before: Schemas['FoodPage'] | undefined) => before,
    staleTime: 300_000,
  });

export const foodQuery = (id: string) =>
  queryOptions({
    queryKey: ['food', id],
    queryFn: () => ask(api.GET('/api/v1/foods/{food_id}', { params: { path: { food_id: id } } })),
    staleTime: 300_000,
  });

export const allergensQuery = queryOptions({
  queryKey: ['allergens'],
  queryFn: () => ask(api.GET('/api/v1/allergens')),
  staleTime: Number.POSITIVE_INFINITY,
});
