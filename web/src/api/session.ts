import { queryOptions } from '@tanstack/react-query';
import { api, ask, keepWhose } from '~/api/client';
import { keepPlace } from '~/lib/format';
import { keepUnits } from '~/lib/units';
import { keepDraftsOf } from '~/lib/use-draft';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async () => {
    const account = await ask(api.GET('/api/v1/session'));
    keepWhose(account);
    keepDraftsOf(account.email);
    keepUnits(account);
    keepPlace(account);
    return account;
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export const installationQuery = queryOptions({
  queryKey: ['installation'],
  queryFn: () => ask(api.GET('/api/v1/installation')),
});
