import type { components } from '~/api/schema.gen';

type Schemas = components['schemas'];
export type MyPage = Schemas['MyPageView'];
export type MyDay = Schemas['MyDayView'];
export type MyKitchen = Schemas['MyKitchenView'];
export type MyPan = Schemas['MyPanView'];
export type MyContainer = Schemas['MyContainerView'];

/** Something that was told and waits for the network, under an id by which it counts once. */
export type Wish = { id: string; method: 'POST' | 'PUT'; path: string; body: Record<string, unknown> };

const TOKEN = 'my/link';
const KEPT = 'my/page';
const WAITING = 'my/waiting';

/** The secret of the link: behind the "#" of the address, or kept from when it stood there. */
export function readToken(hash: string, store: Storage): string {
  const found = hash.replace(/^#/, '');
  // Another link is another person, or a new one: nothing of the first is shown by it.
  if (found && found !== store.getItem(TOKEN)) {
    forget(store);
    store.setItem(TOKEN, found);
  }
  return found || store.getItem(TOKEN) || '';
}

export function forget(store: Storage) {
  for (const key of [TOKEN, KEPT, WAITING]) store.removeItem(key);
}

export const readKept = (store: Storage): { page: MyPage; at: string } | null =>
  JSON.parse(store.getItem(KEPT) ?? 'null') as { page: MyPage; at: string } | null;

export const keepPage = (store: Storage, page: MyPage, at: Date) =>
  store.setItem(KEPT, JSON.stringify({ page, at: at.toISOString() }));

export const readWaiting = (store: Storage): Wish[] => JSON.parse(store.getItem(WAITING) ?? '[]') as Wish[];

const keepWaiting = (store: Storage, waiting: Wish[]) => store.setItem(WAITING, JSON.stringify(waiting));

/** What a server says no to, in words. */
export class Refused extends Error {
  override name = 'Refused';

  constructor(
    readonly status: number,
    words: string,
    /** What is wrong where, by the field's name. */
    readonly faults: Record<string, string> = {},
  ) {
    super(words);
  }
}

export type Ask = typeof fetch;
type Sent = { id: string; method: 'POST' | 'PUT' | 'PATCH'; body: Record<string, unknown> };

export async function ask(fetching: Ask, token: string, path: string, wish?: Sent): Promise<Response> {
  const answer = await fetching(`/api/v1${path}`, {
    method: wish?.method ?? 'GET',
    headers: {
      'X-Client-Link': token,
      ...(wish ? { 'Content-Type': 'application/json', 'Idempotency-Key': wish.id } : {}),
    },
    // What is told says by this phone's clock when it is sent: the server believes the time between.
    ...(wish
      ? {
          body: JSON.stringify(
            'happened_at' in wish.body ? { ...wish.body, sent_at: new Date() } : wish.body,
          ),
        }
      : {}),
    signal: AbortSignal.timeout(20_000),
  });
  if (answer.ok) return answer;
  const problem = (await answer.json().catch(() => null)) as Schemas['Problem'] | null;
  throw new Refused(
    answer.status,
    problem?.detail ?? 'The server could not answer. Try again in a moment.',
    Object.fromEntries((problem?.errors ?? []).map((one) => [one.pointer.split('/')[1] ?? '', one.message])),
  );
}

export const askPage = async (fetching: Ask, token: string): Promise<MyPage> =>
  (await (await ask(fetching, token, '/my')).json()) as MyPage;

export const askKitchen = async (fetching: Ask, token: string): Promise<MyKitchen> =>
  (await (await ask(fetching, token, '/my/kitchen')).json()) as MyKitchen;

/** Grams for each container when the pan weighs so much. */
export async function askShares(fetching: Ask, token: string, pan: MyPan, grams: number): Promise<string[]> {
  const path = `/my/kitchen/${pan.batch_id}/${pan.component_id}?pan_g=${grams}`;
  return ((await (await ask(fetching, token, path)).json()) as Schemas['MySharesView']).grams;
}

/**
 * Hand in what waits, the oldest first. What the server refuses waits no more, and is told; where it cannot be reached,
 * or is too busy, it all goes on waiting.
 */
export async function handIn(fetching: Ask, token: string, store: Storage): Promise<string[]> {
  const refused: string[] = [];
  for (;;) {
    const [first] = readWaiting(store);
    if (!first) return refused;
    try {
      await ask(fetching, token, `/my${first.path}`, first);
    } catch (error) {
      if (!(error instanceof Refused) || error.status === 429 || error.status >= 500) return refused;
      refused.push(error.message);
    }
    keepWaiting(
      store,
      readWaiting(store).filter((one) => one.id !== first.id),
    );
  }
}

/** Keep a wish until the server has it. */
export const addWish = (store: Storage, wish: Omit<Wish, 'id'>) =>
  keepWaiting(store, [...readWaiting(store), { ...wish, id: crypto.randomUUID() }]);

/** The page as it is once what waits is handed in: what was told shows at once. */
export function withWaiting(page: MyPage, waiting: readonly Wish[]): MyPage {
  let shown = page;
  for (const { path, body } of waiting) {
    if (path === '/macros') shown = { ...shown, shows_macros: body.shows_macros === true };
    if (path !== '/eaten') continue;
    const of = (one: MyContainer) => one.row_id === body.row_id && one.container === body.container;
    shown = {
      ...shown,
      days: shown.days.map((day) => ({
        ...day,
        containers: day.containers.map((one) =>
          of(one) ? { ...one, told: toldBy(body.event), left: leftWords(body), swaps: [] } : one,
        ),
      })),
    };
  }
  return shown;
}

const toldBy = (event: unknown): MyContainer['told'] =>
  event === 'taken back' ? null : (event as MyContainer['told']);

const SHARES: Record<string, string> = {
  0.25: 'a quarter',
  0.5: 'half',
  0.75: 'three quarters',
  1: 'all of it',
};

function leftWords(body: Record<string, unknown>): string {
  if (body.event !== 'left') return '';
  const parts = body.left_parts as Record<string, number> | undefined;
  const grams = parts ? Object.values(parts).reduce((sum, one) => sum + one, 0) : body.left_g;
  return grams === undefined ? (SHARES[String(body.left_share)] ?? '') : `${String(grams)} g`;
}

const DAY = new Intl.DateTimeFormat('en-GB', {
  weekday: 'long',
  day: 'numeric',
  month: 'long',
  timeZone: 'UTC',
});
const WEEKDAY = new Intl.DateTimeFormat('en-GB', { weekday: 'long', timeZone: 'UTC' });

/** A day as one speaks of it: "Today, Wednesday", "Tomorrow, Thursday", "Friday 4 December". */
export function dayName(on: string, today: string): string {
  const days = Math.round((Date.parse(on) - Date.parse(today)) / 86_400_000);
  const at = new Date(`${on}T12:00:00Z`);
  const near = { 0: 'Today', 1: 'Tomorrow', [-1]: 'Yesterday' }[days];
  return near ? `${near}, ${WEEKDAY.format(at)}` : DAY.format(at);
}

const DATE = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' });

/** "28 December 2026". */
export const fullDay = (iso: string) => DATE.format(new Date(iso));

const LOCAL = new Intl.DateTimeFormat('sv-SE');

/** The later of a day and the day that it is on this phone. */
export function laterDay(on: string, now: Date): string {
  const here = LOCAL.format(now);
  return here > on ? here : on;
}
