import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export const facetsQuery = queryOptions({
  queryKey: ['food-facets'],
  queryFn: () => ask(api.GET('/api/v1/foods/facets')),
  staleTime: 300_000,
});

export const foodWordsQuery = queryOptions({
  queryKey: ['food-words'],
  queryFn: () => ask(api.GET('/api/v1/foods/words')),
  staleTime: Number.POSITIVE_INFINITY,
});

export const labelQuery = (food: Schemas['FoodInput']) =>
  queryOptions({
    queryKey: ['food-preview', food],
    queryFn: () => ask(api.POST('/api/v1/foods/preview', { body: food })),
    placeholderData: (before: Schemas['FoodDetail'] | undefined) => before,
    gcTime: 30_000,
  });
