import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

/** Who can eat what: the newest survey, followed while it runs. */
export const surveyQuery = queryOptions({
  queryKey: ['survey'],
  queryFn: () => ask(api.GET('/api/v1/surveys/newest')),
  refetchInterval: (query) => (query.state.data?.state === 'running' ? 1000 : false),
});

export type Answers = { sort: string; recipe_id?: string; client_id?: string; met?: boolean };

const ANSWERS_AT_ONCE = 100;
const CLIENTS_AT_ONCE = 50;

/** Clients by recipes, as many clients at once as are looked at. */
export const gridQuery = (id: string, answered: number) =>
  infiniteQueryOptions({
    queryKey: ['survey', id, answered, 'grid'],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/v1/surveys/{survey_id}/grid', {
          params: { path: { survey_id: id }, query: { limit: CLIENTS_AT_ONCE, offset: pageParam } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const shown = pages.reduce((sum, page) => sum + page.rows.length, 0);
      return shown < last.total ? shown : undefined;
    },
    placeholderData: keepPreviousData,
  });

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
