import { QueryClient } from '@tanstack/react-query';
import { ProblemError } from '~/api/client';

export const queryClient = new QueryClient({
  defaultOptions: {
    // What is written waits in the outbox, which knows better than the browser whether the server is there.
    mutations: { networkMode: 'always' },
    queries: {
      // Without a network what was opened is kept by the service worker: it is asked whatever the browser believes.
      networkMode: 'always',
      staleTime: 15_000,
      // A refusal stays one however often it is asked again; a lost connection may come back.
      retry: (times, error) => times < 2 && error instanceof ProblemError && error.problem.status === 0,
    },
  },
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
