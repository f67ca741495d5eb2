import { listed, plural } from '~/lib/format';
import type { Entry } from '~/offline/outbox';

/** What waits, counted by what it is called: "12 fills wait to be handed in". */
export function waitingWords(entries: readonly Pick<Entry, 'noun'>[]) {
  const counts = new Map<string, number>();
  for (const { noun = 'change' } of entries) counts.set(noun, (counts.get(noun) ?? 0) + 1);
  const told = [...counts].map(([noun, count]) => plural(count, noun));
  return `${listed(told)} ${entries.length === 1 ? 'waits' : 'wait'} to be handed in`;
}
