import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

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

/** The figures of a recipe as typed, compared with the one that is `saved`. */
export const previewQuery = (recipe: Schemas['RecipeInput'], saved: string | null) =>
  queryOptions({
    queryKey: ['recipe-preview', saved, recipe],
    queryFn: () =>
      ask(api.POST('/api/v1/recipes/preview', { body: recipe, params: { query: saved ? { saved } : {} } })),
    placeholderData: (before: Schemas['RecipeView'] | undefined) => before,
    gcTime: 30_000,
  });
