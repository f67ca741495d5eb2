import { api, ask } from '~/api/client';
import { forgetFigures, queryClient } from '~/api/query-client';
import type { paths } from '~/api/schema.gen';
import { keepDraft } from '~/lib/use-draft';
import { type Call, type Entry, type Keeps, Outbox, type Put, type Wish } from '~/offline/outbox';
import { openStore } from '~/offline/store';

type Method = 'post' | 'put';
type Written<M extends Method> = {
  [P in keyof paths]: paths[P] extends Record<M, { responses: unknown }> ? P : never;
}[keyof paths];
type Operation<M extends Method, P extends keyof paths> = paths[P] extends Record<M, infer O> ? O : never;
type Json<T> = T extends { content: { 'application/json': infer J } } ? J : never;
type Body<O> = O extends { requestBody: infer B } ? { body: Json<B> } : { body?: undefined };
type Path<O> = O extends { parameters: { path: infer A } } ? { path: A } : unknown;
type Query<O> = O extends { parameters: { query: infer Q } } ? { query: Q } : unknown;
type Params<O> = Path<O> & Query<O>;
type Given<O> = unknown extends Params<O> ? Body<O> : Body<O> & { params: Params<O> };
type Success<R> = Json<Extract<R[keyof R & (200 | 201 | 202)], object>>;
type Answer<M extends Method, P extends keyof paths> =
  Operation<M, P> extends { responses: infer R } ? Success<R> : never;

/** A call with the type of its answer. */
export type Calling<View> = Call & { readonly answers?: View | undefined };

/** A call of the API by its method, path, parameters and body, checked against the contract. */
export const call = <M extends Method, P extends Written<M>>(
  method: M,
  path: P,
  given: Given<Operation<M, P>>,
): Calling<Answer<M, P>> => ({ method, path: path as string, ...(given as object) });

type About = Pick<Wish, 'about' | 'words' | 'noun' | 'href' | 'draft'>;

const rawRequest = api.request as unknown as (
  method: Method,
  path: string,
  init: { params?: unknown; body?: unknown; headers: Record<string, string>; signal: AbortSignal },
) => Promise<{ data?: unknown; error?: unknown; response: Response }>;

/** A request that nobody answers would hold up all that waits behind it: it counts as lost then, and is sent again. */
const ANSWERED_WITHIN_MS = 45_000;

/** What tells when it happened tells when it is sent too: the server believes the time between, not the clock. */
const stamped = (body: unknown) =>
  body && typeof body === 'object' && 'happened_at' in body
    ? { ...body, sent_at: new Date().toISOString() }
    : body;

const send = ({ id, method, path, params, body }: Entry) =>
  ask(
    rawRequest(method, path, {
      ...(params === undefined ? {} : { params }),
      ...(body === undefined ? {} : { body: stamped(body) }),
      headers: { 'Idempotency-Key': id },
      signal: AbortSignal.timeout(ANSWERED_WITHIN_MS),
    }),
  );

type Versioned = { version?: number };
const versionOf = (body: unknown) => (body as Versioned | undefined)?.version;

/**
 * What was wished on the version that a wish before it was made on, and which nobody else changed meanwhile, is meant
 * for the version that this one led to.
 */
function onNewVersion(waiting: Entry, made: Entry, answer: unknown): Entry {
  const now = planVersion(answer);
  if (now === undefined) return waiting;
  // What takes a change back names no version: it is made on the newest.
  const base = versionOf(made.body) ?? now - 1;
  if (now !== base + 1 || versionOf(waiting.body) !== base) return waiting;
  return { ...waiting, body: { ...(waiting.body as object), version: now } };
}

const planVersion = (answer: unknown) =>
  (answer as { plan?: { batch?: Versioned } } | undefined)?.plan?.batch?.version;

let outbox: Outbox | null = null;

/** The outbox of this page. */
export function getOutbox(): Outbox {
  if (!outbox) throw new Error('The outbox is opened when somebody has signed in.');
  return outbox;
}

const listeners = new Map<string, Set<(entry: Entry) => void>>();
const unheard = new Map<string, Entry[]>();

/**
 * Hear of wishes about something that were made and that no part of the page waited for: a page that is gone had left
 * them. Of those that were made before somebody listened the first listener hears.
 */
export function onUnawaited(about: string, listener: (entry: Entry) => void) {
  const those = listeners.get(about) ?? new Set();
  listeners.set(about, those.add(listener));
  for (const entry of unheard.get(about) ?? []) listener(entry);
  unheard.delete(about);
  return () => {
    those.delete(listener);
  };
}

function heard(entry: Entry, _answer: unknown, isAwaited: boolean) {
  if (isAwaited) return;
  if (entry.draft) keepDraft(entry.draft.key, null);
  for (const queryKey of [['clients'], ['client'], ['settings']])
    void queryClient.invalidateQueries({ queryKey });
  forgetFigures(queryClient);
  const those = listeners.get(entry.about);
  if (!those?.size) unheard.set(entry.about, [...(unheard.get(entry.about) ?? []), entry]);
  for (const listener of those ?? []) listener(entry);
}

const TAB = 'yantai/tab';
const lockOf = (tab: string) => `${TAB}/${tab}`;

/** Hold a lock for as long as this page lives; whether it was free. */
const hold = (tab: string) =>
  new Promise<boolean>((held) => {
    void navigator.locks.request(lockOf(tab), { ifAvailable: true }, async (lock) => {
      held(lock !== null);
      if (lock) await new Promise(() => undefined);
    });
  });

/** The name of this tab, which outlives a reload of it; while it lives it holds a lock of that name. */
async function nameTab(): Promise<string> {
  let tab = crypto.randomUUID() as string;
  try {
    tab = sessionStorage.getItem(TAB) ?? tab;
    // A tab that was duplicated has the name of the first: it takes another.
    if (navigator.locks && !(await hold(tab))) {
      tab = crypto.randomUUID();
      await hold(tab);
    }
    sessionStorage.setItem(TAB, tab);
  } catch {
    // Storage that is switched off: it is another tab after a reload.
  }
  return tab;
}

/** The other tabs that are alive. */
async function tabsAlive(own: string): Promise<string[]> {
  // Where the browser has no locks every other tab counts as gone: what two send is made once all the same.
  const { held = [] } = navigator.locks ? await navigator.locks.query() : {};
  return held.flatMap(({ name }) => (name?.startsWith(`${TAB}/`) && name !== lockOf(own) ? [name] : []));
}

const watched = new Set<string>();
const LOADED_ANEW_MS = 3000;

let made: Promise<{ outbox: Outbox; tab: string }> | null = null;

/** Take up what this person wished, here and in tabs that are gone, and send it. */
export async function openOutbox(whose: string) {
  made ??= Promise.all([openStore(), nameTab()]).then(([store, tab]) => {
    outbox = new Outbox({ store, send, after: onNewVersion, onMade: heard });
    window.addEventListener('online', () => outbox?.kick());
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'visible') void takeUp();
    });
    return { outbox, tab };
  });
  const { outbox: found } = await made;
  if (found.whose === whose) return;
  found.close();
  await takeUp(whose);
}

/** Send what tabs that are gone left behind, now and whenever one that is alive goes. */
async function takeUp(whose?: string) {
  const { outbox: found, tab } = await (made ?? Promise.reject(new Error('There is no outbox yet.')));
  const alive = await tabsAlive(tab);
  const person = whose ?? found.whose;
  if (person) await found.open(person, tab, (other) => !alive.includes(lockOf(other)));
  for (const name of alive.filter((one) => !watched.has(one))) {
    watched.add(name);
    // Its lock is free when it is gone, and for a moment while it is loaded anew.
    void navigator.locks
      .request(name, () => undefined)
      .then(() => {
        setTimeout(() => {
          watched.delete(name);
          void takeUp();
        }, LOADED_ANEW_MS);
      });
  }
}

/** Wish something; what the server refuses is handed to whoever waits for the answer, unless it is to be kept. */
export const wish = (made: Call, about: About, keeps?: Keeps): Put =>
  getOutbox().put(
    { method: made.method, path: made.path, params: made.params, body: made.body, ...about },
    keeps,
  );

/** Wish something and wait for the server's answer, through lost connections. */
export const write = <View>(made: Calling<View>, about: About) => wish(made, about).last as Promise<View>;
