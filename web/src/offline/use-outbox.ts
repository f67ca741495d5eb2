import { useSyncExternalStore } from 'react';
import type { Entry } from '~/offline/outbox';
import { getOutbox } from '~/offline/writes';

/** What waits for the server, the oldest first. */
export function useOutbox(): readonly Entry[] {
  const outbox = getOutbox();
  return useSyncExternalStore(outbox.subscribe, () => outbox.entries);
}
