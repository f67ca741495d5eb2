import { QueryClient, queryOptions } from '@tanstack/react-query';
import { api, ask, keepCsrfToken, ProblemError, type Schemas } from '~/lib/api';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      // A refusal stays one however often it is asked again; a lost connection may come back.
      retry: (times, error) => times < 2 && error instanceof ProblemError && error.problem.status === 0,
    },
  },
});

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const account = await ask(api.GET('/api/v1/session'));
    keepCsrfToken(account.csrf_token);
    return account;
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const installationQuery = queryOptions({
  queryKey: ['installation'],
  queryFn: () => ask(api.GET('/api/v1/installation')),
});

export const clientsQuery = queryOptions({
  queryKey: ['clients'],
  queryFn: () => ask(api.GET('/api/v1/clients')),
});

export const clientQuery = (id: string) =>
  queryOptions({
    queryKey: ['clients', id],
    queryFn: () => ask(api.GET('/api/v1/clients/{client_id}', { params: { path: { client_id: id } } })),
  });

export const allergensQuery = queryOptions({
  queryKey: ['allergens'],
  queryFn: () => ask(api.GET('/api/v1/allergens')),
  staleTime: Number.POSITIVE_INFINITY,
});

export const recipesQuery = queryOptions({
  queryKey: ['recipes'],
  queryFn: () => ask(api.GET('/api/v1/recipes')),
});

export const recipeQuery = (id: string) =>
  queryOptions({
    queryKey: ['recipes', id],
    queryFn: () => ask(api.GET('/api/v1/recipes/{recipe_id}', { params: { path: { recipe_id: id } } })),
  });

export const recipeWordsQuery = queryOptions({
  queryKey: ['recipe-words'],
  queryFn: () => ask(api.GET('/api/v1/recipes/words')),
  staleTime: Number.POSITIVE_INFINITY,
});

export const previewQuery = (recipe: Schemas['RecipeInput']) =>
  queryOptions({
    queryKey: ['recipe-preview', recipe],
    queryFn: () => ask(api.POST('/api/v1/recipes/preview', { body: recipe })),
    placeholderData: (before: Schemas['RecipeView'] | undefined) => before,
    gcTime: 30_000,
  });

export const batchesQuery = queryOptions({
  queryKey: ['batches'],
  queryFn: () => ask(api.GET('/api/v1/batches')),
});

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: ['plans', id],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/plan', { params: { path: { batch_id: id } } })),
  });

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

export const facetsQuery = queryOptions({
  queryKey: ['food-facets'],
  queryFn: () => ask(api.GET('/api/v1/foods/facets')),
  staleTime: 300_000,
});

export const findQuery = (text: string) =>
  queryOptions({
    queryKey: ['find', text],
    queryFn: () => ask(api.GET('/api/v1/search', { params: { query: { text } } })),
    placeholderData: (before: Schemas['Found'][] | undefined) => before,
    enabled: text.trim().length > 0,
  });
