import { queryOptions, useQuery } from '@tanstack/react-query';
import { api, ask, keepWhose, type Schemas } from '~/api/client';
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

type Account = Pick<Schemas['AccountView'], 'rights'>;

/** What somebody may do: the coach everything, a helper what their device was paired for. */
export const mayDo = ({ rights }: Account) => ({
  isCoach: rights === null,
  shop: rights === null || rights.includes('shop'),
  cook: rights === null || rights.includes('cook'),
});

/** What whoever is signed in may do; nothing before it is known who that is. */
export function useRights() {
  return mayDo(useQuery(sessionQuery).data ?? { rights: [] });
}

/** Where somebody begins. */
export const homeOf = (account: Account) =>
  mayDo(account).isCoach ? '/' : mayDo(account).cook ? '/batches' : '/trips';

export const installationQuery = queryOptions({
  queryKey: ['installation'],
  queryFn: () => ask(api.GET('/api/v1/installation')),
});
