import { expect, it } from 'vitest';
import { type Answers, readFigure, settled, tellAnswers, without } from '~/client-link/form';

const server = (...answers: [number, Record<string, string>?][]) => {
  const asked: Answers[] = [];
  const fetching = ((_: string, init: { body: string }) => {
    asked.push(JSON.parse(init.body) as Answers);
    const [status, faults] = answers.shift() ?? [0];
    if (!status) return Promise.reject(new TypeError('offline'));
    const errors = Object.entries(faults ?? {}).map(([field, message]) => ({
      pointer: `/${field}`,
      message,
    }));
    return Promise.resolve(
      new Response(status === 204 ? null : JSON.stringify({ detail: 'no', errors }), { status }),
    );
  }) as unknown as typeof fetch;
  return { fetching, asked };
};

it('leaves out an answer that is refused, so that the others are kept', async () => {
  const { fetching, asked } = server([422, { birthday: 'Yet to come.' }], [204]);
  const told = await tellAnswers(fetching, 't', { likes: 'salmon', birthday: '2099-01-01' });
  expect(told).toEqual({ kept: { likes: 'salmon' }, faults: { birthday: 'Yet to come.' } });
  expect(asked).toEqual([{ likes: 'salmon', birthday: '2099-01-01' }, { likes: 'salmon' }]);
});

it('ends where every answer is refused', async () => {
  const { fetching, asked } = server([422, { birthday: 'Yet to come.' }]);
  expect(await tellAnswers(fetching, 't', { birthday: '2099-01-01' })).toEqual({
    kept: {},
    faults: { birthday: 'Yet to come.' },
  });
  expect(asked).toHaveLength(1);
});

it('tells of a form that does not open, and of no network, at once', async () => {
  await expect(tellAnswers(server([404]).fetching, 't', { likes: 'a' })).rejects.toThrow('no');
  await expect(tellAnswers(server([0]).fetching, 't', { likes: 'a' })).rejects.toThrow('offline');
});

it('keeps what was typed on while the rest was told', () => {
  const typed: Answers = { likes: 'salmon and', meals: ['lunch'], goals: 'sleep' };
  expect(settled(typed, { likes: 'salmon', meals: ['lunch'] })).toEqual({
    likes: 'salmon and',
    goals: 'sleep',
  });
  expect(without(typed, ['likes', 'meals'])).toEqual({ goals: 'sleep' });
});

it('reads figures as people write them', () => {
  expect([' 172 ', '72,5', '72.5', '', 'six', '-4', '1.2.3'].map(readFigure)).toEqual([
    172,
    72.5,
    72.5,
    null,
    undefined,
    undefined,
    undefined,
  ]);
});
