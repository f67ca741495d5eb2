import { expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { type Fact, withFacts } from '~/views/batch/cook/waiting';

const prompt = (part: object) =>
  ({
    key: 'k',
    task: 't',
    event: 'done',
    touch: null,
    celsius: null,
    at_min: 600,
    ...part,
  }) as Schemas['PromptView'];
const day = (prompts: Schemas['PromptView'][]) =>
  ({
    order: { prompts },
    live: { timers: prompts.map(({ task, at_min }) => ({ task, at_min })) },
  }) as unknown as Schemas['CookView'];
const fact = (part: object) => part as Fact;

it('shows what waits in this browser as if it had arrived', () => {
  const prompts = [
    prompt({ key: 'a' }),
    prompt({ key: 'b', task: 'u', event: 'touched', touch: 1 }),
    prompt({ key: 'c', task: 'u', event: 'touched', touch: 2 }),
    prompt({ key: 'd', task: 'v', event: 'begun', touch: 0 }),
    prompt({ key: 'e', task: 'oven', event: 'heated', celsius: 200 }),
  ];
  const left = (facts: Fact[]) => withFacts(day(prompts), facts).order?.prompts.map(({ key }) => key);
  expect(left([])).toEqual(['a', 'b', 'c', 'd', 'e']);
  expect(left([fact({ event: 'done', task: 't' })])).toEqual(['b', 'c', 'd', 'e']);
  expect(left([fact({ event: 'touched', task: 'u', touch: 1 })])).toEqual(['a', 'c', 'd', 'e']);
  expect(left([fact({ event: 'begun', task: 'v' })])).toEqual(['a', 'b', 'c', 'e']);
  expect(left([fact({ event: 'heated', task: 'oven', celsius: 200 })])).toEqual(['a', 'b', 'c', 'd']);
  expect(left([fact({ event: 'skipped', task: 'u' })])).toEqual(['a', 'd', 'e']);
});

it('moves what takes longer', () => {
  const found = withFacts(day([prompt({})]), [
    fact({ event: 'longer', task: 't', minutes: 1 }),
    fact({ event: 'longer', task: 't', minutes: 5 }),
  ]);
  expect(found.order?.prompts[0]?.at_min).toBe(606);
  expect(found.live?.timers[0]?.at_min).toBe(606);
});

it('moves what is put off, and leaves out what was taken back', () => {
  const later = fact({ id: 'f', event: 'later', task: 't', minutes: 5 });
  const at = (facts: Fact[]) => withFacts(day([prompt({})]), facts).order?.prompts[0]?.at_min;
  expect(at([later])).toBe(605);
  expect(at([later, fact({ event: 'taken back', task: 'f' })])).toBe(600);
});
