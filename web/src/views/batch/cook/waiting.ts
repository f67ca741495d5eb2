import type { Schemas } from '~/api/client';

type Cooking = Schemas['CookView'];
type Sent = Schemas['CookFactInput'];
/** What is noted, before it is said when and where. */
export type Fact = Partial<Sent> & Pick<Sent, 'event'>;

/** What has happened of a day by facts that wait in this browser: nobody waits for the network to go on. */
export function withFacts(found: Cooking, waiting: readonly Fact[]): Cooking {
  if (!found.order || waiting.length === 0) return found;
  const gone = new Set<string>();
  const done = new Set<string>();
  const longer = new Map<string, number>();
  const heard = new Set<string>();
  const takenBack = new Set(waiting.flatMap((fact) => (fact.event === 'taken back' ? [fact.task] : [])));
  for (const fact of waiting) {
    if (fact.id && takenBack.has(fact.id)) continue;
    if (fact.event === 'done' || fact.event === 'skipped') done.add(fact.task ?? '');
    if (fact.event === 'begun') gone.add(`${fact.task} begun`);
    if (fact.event === 'touched') gone.add(`${fact.task} ${fact.touch}`);
    if (fact.event === 'heated') heard.add(`${fact.task} ${fact.celsius}`);
    if (fact.event === 'longer' || fact.event === 'later')
      longer.set(fact.task ?? '', (longer.get(fact.task ?? '') ?? 0) + Number(fact.minutes ?? 0));
  }
  const isOpen = (one: Schemas['PromptView']) =>
    !done.has(one.task) &&
    !(one.event === 'begun' && gone.has(`${one.task} begun`)) &&
    !(one.event === 'touched' && gone.has(`${one.task} ${one.touch}`)) &&
    !(one.event === 'heated' && heard.has(`${one.task} ${one.celsius}`));
  const later = <T extends { task: string; at_min: number }>(one: T): T => ({
    ...one,
    at_min: one.at_min + (longer.get(one.task) ?? 0),
  });
  return {
    ...found,
    order: { ...found.order, prompts: found.order.prompts.filter(isOpen).map(later) },
    live: found.live && {
      ...found.live,
      timers: found.live.timers.filter((one) => !done.has(one.task)).map(later),
    },
  };
}
