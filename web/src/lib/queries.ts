import { infiniteQueryOptions, keepPreviousData, QueryClient, queryOptions } from '@tanstack/react-query';
import { api, ask, keepWhose, ProblemError, type Schemas } from '~/lib/api';
import { keepUnits } from '~/lib/units';
import { keepDraftsOf } from '~/lib/use-draft';

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
    keepWhose(account);
    keepDraftsOf(account.email);
    keepUnits(account);
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

/** The days of a client as typed, and what shares of them come to. */
export const daysQuery = (client: Schemas['ClientInput']) =>
  queryOptions({
    queryKey: ['client-days', client.days, client.targets, client.tolerance],
    queryFn: () => ask(api.POST('/api/v1/clients/days', { body: client })),
    placeholderData: (before: Schemas['DaysPreview'] | undefined) => before,
    gcTime: 30_000,
    retry: false,
  });

/** What words that were typed keep out of this kitchen's foods. */
export const wordsQuery = (words: string[]) =>
  queryOptions({
    queryKey: ['client-words', words],
    queryFn: () => ask(api.POST('/api/v1/clients/words', { body: { words } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

export const targetHistoryQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['clients', id, 'targets', version],
    queryFn: () =>
      ask(api.GET('/api/v1/clients/{client_id}/targets', { params: { path: { client_id: id } } })),
  });

export const scaledQuery = (targetId: string, factor: number) =>
  queryOptions({
    queryKey: ['scaled', targetId, factor],
    queryFn: () =>
      ask(
        api.GET('/api/v1/targets/{target_id}/scaled', {
          params: { path: { target_id: targetId }, query: { factor } },
        }),
      ),
    retry: false,
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

/** Who can eat what: the newest survey, followed while it runs. */
export const surveyQuery = queryOptions({
  queryKey: ['survey'],
  queryFn: () => ask(api.GET('/api/v1/surveys/newest')),
  refetchInterval: (query) => (query.state.data?.state === 'running' ? 1000 : false),
});

export type Answers = { sort: string; recipe_id?: string; client_id?: string; met?: boolean };

const ANSWERS_AT_ONCE = 100;

/** Answers of a survey; `answered` recipes, so that they are read again as more come in. */
export const answersQuery = (id: string, answered: number, wanted: Answers) =>
  infiniteQueryOptions({
    queryKey: ['survey', id, answered, wanted],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/v1/surveys/{survey_id}/answers', {
          params: {
            path: { survey_id: id },
            query: { ...wanted, limit: ANSWERS_AT_ONCE, offset: pageParam },
          },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const shown = pages.reduce((sum, page) => sum + page.answers.length, 0);
      return shown < last.total ? shown : undefined;
    },
    placeholderData: keepPreviousData,
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

export const batchesQuery = queryOptions({
  queryKey: ['batches'],
  queryFn: () => ask(api.GET('/api/v1/batches')),
});

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: ['plans', id],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/plan', { params: { path: { batch_id: id } } })),
  });

/** Ways out of a missed target, and the reach map: of one version of the plan. */
export const waysQuery = (id: string, rowId: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'ways', rowId, version],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/rows/{row_id}/ways', {
          params: { path: { batch_id: id, row_id: rowId } },
        }),
      ),
  });

export const planDaysQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'days', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/days', { params: { path: { batch_id: id } } })),
    placeholderData: (before: Schemas['DayView'][] | undefined) => before,
  });

export const comparedQuery = (id: string, other: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'compared', other, version],
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/compared', {
          params: { path: { batch_id: id }, query: { other } },
        }),
      ),
    placeholderData: keepPreviousData,
  });

export const filledQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'filled', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/filled', { params: { path: { batch_id: id } } })),
  });

export const reachQuery = (id: string, version: number) =>
  queryOptions({
    queryKey: ['plans', id, 'reach', version],
    queryFn: () => ask(api.GET('/api/v1/batches/{batch_id}/reach', { params: { path: { batch_id: id } } })),
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

export const yieldsQuery = queryOptions({
  queryKey: ['yields'],
  queryFn: () => ask(api.GET('/api/v1/yields')),
});

/** Forget what depends on foods, rules or settings. */
export function forgetFigures(client: QueryClient) {
  for (const queryKey of [
    ['foods'],
    ['food'],
    ['recipes'],
    ['recipe-preview'],
    ['plans'],
    ['batches'],
    ['yields'],
  ])
    void client.invalidateQueries({ queryKey });
}
