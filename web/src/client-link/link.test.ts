import { beforeEach, expect, it } from 'vitest';
import {
  addWish,
  askPage,
  dayName,
  forget,
  handIn,
  keepPage,
  laterDay,
  type MyPage,
  readKept,
  readToken,
  readWaiting,
  withWaiting,
} from '~/client-link/link';

class Memory {
  private readonly held = new Map<string, string>();
  getItem = (key: string) => this.held.get(key) ?? null;
  setItem = (key: string, value: string) => void this.held.set(key, value);
  removeItem = (key: string) => void this.held.delete(key);
}

const CONTAINER = { row_id: 'r', container: 1, told: null, left: '', swaps: [{}] };
const PAGE = {
  client: 'Ada',
  shows_macros: true,
  days: [{ on: '2026-12-01', containers: [CONTAINER] }],
} as unknown as MyPage;

let store: Storage;
beforeEach(() => {
  store = new Memory() as unknown as Storage;
});

const answers = (...statuses: number[]) => {
  const asked: { path: string; headers: Record<string, string>; body: unknown }[] = [];
  const fetching = ((path: string, init: { headers: Record<string, string>; body?: string }) => {
    asked.push({ path, headers: init.headers, body: init.body ? JSON.parse(init.body) : undefined });
    const status = statuses.shift();
    if (status === undefined) return Promise.reject(new TypeError('offline'));
    return Promise.resolve(
      new Response(status === 204 ? null : JSON.stringify({ detail: `no: ${status}` }), { status }),
    );
  }) as unknown as typeof fetch;
  return { fetching, asked };
};

it('keeps the secret of the link, and forgets the first person when another link is opened', () => {
  expect(readToken('', store)).toBe('');
  expect(readToken('#one', store)).toBe('one');
  keepPage(store, PAGE, new Date(0));
  expect(readToken('', store)).toBe('one');
  expect(readKept(store)?.page.client).toBe('Ada');
  expect(readToken('#two', store)).toBe('two');
  expect(readKept(store)).toBeNull();
  forget(store);
  expect(readToken('', store)).toBe('');
});

it('hands in what waits in order, each under its own id, and keeps it while nobody answers', async () => {
  addWish(store, { method: 'POST', path: '/words', body: { text: 'a' } });
  addWish(store, { method: 'POST', path: '/words', body: { text: 'b' } });
  const ids = readWaiting(store).map((one) => one.id);
  const away = answers();
  expect(await handIn(away.fetching, 't', store)).toEqual([]);
  expect(readWaiting(store)).toHaveLength(2);
  const busy = answers(503);
  await handIn(busy.fetching, 't', store);
  expect(readWaiting(store)).toHaveLength(2);
  const back = answers(204, 204);
  expect(await handIn(back.fetching, 't', store)).toEqual([]);
  expect(back.asked.map((one) => one.headers['Idempotency-Key'])).toEqual(ids);
  expect(back.asked[0]?.headers['X-Client-Link']).toBe('t');
  expect(readWaiting(store)).toEqual([]);
});

it('tells what was refused, and goes on with the rest', async () => {
  addWish(store, { method: 'POST', path: '/swaps', body: {} });
  addWish(store, { method: 'POST', path: '/eaten', body: { happened_at: '2026-12-01T12:00:00Z' } });
  const { fetching, asked } = answers(422, 204);
  expect(await handIn(fetching, 't', store)).toEqual(['no: 422']);
  expect(asked[1]?.body).toHaveProperty('sent_at');
  expect(asked[0]?.body).not.toHaveProperty('sent_at');
  expect(readWaiting(store)).toEqual([]);
});

it('refuses in the words of the server', async () => {
  await expect(askPage(answers(404).fetching, 't')).rejects.toThrow('no: 404');
});

it('shows at once what was told', () => {
  const wish = (body: Record<string, unknown>) => [
    { id: '1', method: 'POST' as const, path: '/eaten', body: { row_id: 'r', container: 1, ...body } },
  ];
  const shown = (body: Record<string, unknown>) => withWaiting(PAGE, wish(body)).days[0]?.containers[0];
  expect(shown({ event: 'eaten' })).toMatchObject({ told: 'eaten', left: '', swaps: [] });
  expect(shown({ event: 'left', left_share: 0.5 })).toMatchObject({ told: 'left', left: 'half' });
  expect(shown({ event: 'left', left_g: 80 })).toMatchObject({ left: '80 g' });
  expect(shown({ event: 'taken back' })).toMatchObject({ told: null });
  expect(
    withWaiting(PAGE, [{ id: '2', method: 'PUT', path: '/macros', body: { shows_macros: false } }]),
  ).toMatchObject({
    shows_macros: false,
  });
  expect(
    withWaiting(PAGE, [{ id: '3', method: 'POST', path: '/eaten', body: { row_id: 'x', container: 1 } }]),
  ).toEqual(PAGE);
});

it('goes by the phone when the day it was told is over', () => {
  const noon = (day: number) => new Date(2026, 11, day, 12);
  expect(laterDay('2026-12-02', noon(3))).toBe('2026-12-03');
  expect(laterDay('2026-12-02', noon(1))).toBe('2026-12-02');
});

it('speaks of days', () => {
  expect(dayName('2026-12-02', '2026-12-02')).toBe('Today, Wednesday');
  expect(dayName('2026-12-03', '2026-12-02')).toBe('Tomorrow, Thursday');
  expect(dayName('2026-12-01', '2026-12-02')).toBe('Yesterday, Tuesday');
  expect(dayName('2026-12-05', '2026-12-02')).toBe('Saturday 5 December');
});
