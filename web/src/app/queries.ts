import { queryOptions } from '@tanstack/react-query';
import { api, ask, type Schemas } from '~/api/client';

export const findQuery = (text: string) =>
  queryOptions({
    queryKey: ['find', text],
    queryFn: () => ask(api.GET('/api/v1/search', { params: { query: { text } } })),
    placeholderData: (before: Schemas['Found'][] | undefined) => before,
    enabled: text.trim().length > 0,
  });
