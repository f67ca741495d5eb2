import { queryOptions } from '@tanstack/react-query';
import { api, ask } from '~/api/client';

export const formsQuery = queryOptions({
  queryKey: ['forms'],
  queryFn: () => ask(api.GET('/api/v1/forms')),
});

export const reviewQuery = (formId: string) =>
  queryOptions({
    queryKey: ['forms', formId],
    queryFn: () => ask(api.GET('/api/v1/forms/{form_id}', { params: { path: { form_id: formId } } })),
  });
