import { type Problem, toProblem } from '~/api/client';
import type { Store } from '~/offline/store';

/** What is written: one call of the API, as it can be kept and made again. */
export type Call = {
  method: 'post' | 'put';
  path: string;
  params?: unknown;
  body?: unknown;
};

/** A wish of the person at this browser. Its id is sent along, so the server makes it once however often it arrives. */
export type Entry = Call & {
  id: string;
  /** Its place in the order of wishes. */
  number: number;
  /** Who wished it: it is sent as theirs and shown to nobody else. */
  whose: string;
  /** The tab that sends it. */
  tab: string;
  /** What it changes; wishes about the same thing build on each other. */
  about: string;
  at: string;
  words: string[];
  /** What one of its kind is called where they are counted, as "fill". */
  noun?: string | undefined;
  /** The page on which it is mended. */
  href: string;
  /** What was typed, under the name it is kept by, to go on with it there. */
  draft?: { key: string; value: unknown } | undefined;
  /** Why the server has not made it yet. */
  problem?: Problem | undefined;
};

export type Wish = Omit<Entry, 'id' | 'number' | 'whose' | 'tab' | 'at' | 'problem'> & { id?: string };

/** Who keeps a refused wish: the list, where somebody decides about it, or the caller, who shows it at its field. */
export type Keeps = (problem: Problem) => boolean;

/** The server was not there, or not for us: the same wish goes through later, and what follows waits behind it. */
export const isAway = (problem: Problem) =>
  problem.type === 'unreachable' || problem.type === 'not-signed-in' || problem.status === 503;

/** The last try found no server. */
export const isServerAway = (entries: readonly Entry[]) =>
  entries.some(({ problem }) => problem && isAway(problem));

type Verdict = { resolve: (answer: unknown) => void; reject: (error: unknown) => void };
type Attached = { first: Verdict[]; last: Verdict[]; keeps: Keeps };

export type Sent = {
  id: string;
  /** The answer, or the first reason why there is none yet. */
  first: Promise<unknown>;
  /** The answer, or the refusal; a lost connection is waited for. */
  last: Promise<unknown>;
};

/** A new wish: `kept` once the browser has it, so that it outlives the page whatever becomes of that. */
export type Put = Sent & { kept: Promise<void> };

type Options = {
  store: Store;
  send: (entry: Entry) => Promise<unknown>;
  /** What a wish becomes once one before it about the same thing was made. */
  after?: (waiting: Entry, made: Entry, answer: unknown) => Entry;
  /** Called for each wish that was made, whoever still waits for its answer. */
  onMade?: (entry: Entry, answer: unknown, isAwaited: boolean) => void;
  /** When to try again: calls `again` some time after `failures` in a row. */
  later?: (again: () => void, failures: number) => void;
};

const LONGEST_PAUSE_S = 30;
const laterByClock = (again: () => void, failures: number) =>
  void setTimeout(again, 1000 * Math.min(LONGEST_PAUSE_S, 2 ** failures));

/**
 * Every write of the interface, in order: kept before it is sent, sent one after the other, and kept until the server
 * has answered. What the server does not take stays with its reason until somebody decides.
 */
export class Outbox {
  #entries: Entry[] = [];
  #whose = '';
  #tab = '';
  #number = 0;
  #failures = 0;
  #running: Promise<void> | null = null;
  #isWanted = false;
  #listeners = new Set<() => void>();
  #attached = new Map<string, Attached>();
  readonly #options: Required<Omit<Options, 'onMade'>> & Pick<Options, 'onMade'>;

  constructor(options: Options) {
    this.#options = { after: (waiting) => waiting, later: laterByClock, ...options };
  }

  /** Whose it is now; nobody's before it is opened. */
  get whose() {
    return this.#whose;
  }

  get durable() {
    return this.#options.store.durable;
  }

  /** What waits, the oldest first; the same array as long as nothing changes. */
  get entries(): readonly Entry[] {
    return this.#entries;
  }

  readonly subscribe = (listener: () => void) => {
    this.#listeners.add(listener);
    return () => {
      this.#listeners.delete(listener);
    };
  };

  /** Take up what this person wished in this tab, and in tabs that are gone. */
  async open(whose: string, tab: string, isGone: (tab: string) => boolean = () => true) {
    this.#whose = whose;
    this.#tab = tab;
    const kept = (await this.#options.store.read()).filter(
      (entry) => entry.whose === whose && (entry.tab === tab || isGone(entry.tab)),
    );
    const known = new Set(this.#entries.map((entry) => entry.id));
    const found = kept.filter((entry) => !known.has(entry.id)).map((entry) => ({ ...entry, tab }));
    for (const entry of found) await this.#options.store.put(entry);
    this.#number = Math.max(this.#number, ...kept.map((entry) => entry.number));
    this.#show([...found, ...this.#entries].sort((one, other) => one.number - other.number));
    this.kick();
  }

  /** Forget in this page what is another person's; it stays kept for them. */
  close() {
    this.#whose = '';
    this.#show([]);
  }

  put(wish: Wish, keeps: Keeps = () => false): Put {
    this.#number += 1;
    const entry: Entry = {
      ...wish,
      problem: undefined,
      id: wish.id ?? crypto.randomUUID(),
      number: this.#number,
      whose: this.#whose,
      tab: this.#tab,
      at: new Date().toISOString(),
    };
    const sent = this.#attach(entry.id, keeps);
    this.#show([...this.#entries, entry]);
    const kept = this.#keep(entry);
    void kept.then(() => this.kick());
    return { ...sent, kept };
  }

  /** The final answer to a wish of a page that is gone; null where it does not wait any more. */
  awaited(id: string, keeps: Keeps = () => false): Promise<unknown> | null {
    return this.#entries.some((one) => one.id === id) ? this.#attach(id, keeps).last : null;
  }

  /** Send a wish again, as it is or changed. */
  again(id: string, change: (entry: Entry) => Entry, keeps: Keeps): Sent {
    const sent = this.#attach(id, keeps);
    const entry = this.#entries.find((one) => one.id === id);
    if (entry) void this.#replace({ ...change(entry), problem: undefined }).then(() => this.kick());
    return sent;
  }

  /** Tell of what becomes of a wish. */
  #attach(id: string, keeps: Keeps): Sent {
    const [first, firstVerdict] = promised();
    const [last, lastVerdict] = promised();
    const before = this.#attached.get(id);
    this.#attached.set(id, {
      first: [...(before?.first ?? []), firstVerdict],
      last: [...(before?.last ?? []), lastVerdict],
      keeps,
    });
    return { id, first, last };
  }

  /** Let go of a wish. */
  async drop(id: string) {
    this.#letGo(id);
    await this.#forget(id);
  }

  /** Send what waits now; once more where a try is just ending. */
  kick(): void {
    this.#isWanted = true;
    this.#running ??= this.#run().finally(() => {
      this.#running = null;
      if (this.#isWanted) this.kick();
    });
  }

  /** Until nothing about this is on its way any more: made, refused, or waiting for the server. */
  async settled(about: string) {
    while (this.#running && this.#entries.some((entry) => entry.about === about && !entry.problem))
      await this.#running;
  }

  async #run() {
    for (;;) {
      this.#isWanted = false;
      const next = this.#entries.find((entry) => !entry.problem || isAway(entry.problem));
      if (!next || next.whose !== this.#whose) return;
      const away = await this.#attempt(next);
      this.#failures = away ? this.#failures + 1 : 0;
      if (!away) continue;
      // Nobody is asked to sign in every few seconds: it waits for them, or for their next wish.
      if (away.type !== 'not-signed-in') this.#options.later(() => this.kick(), this.#failures);
      return;
    }
  }

  /** Try one; why it waits on, or null where the server made or refused it. */
  async #attempt(entry: Entry): Promise<Problem | null> {
    let answer: unknown;
    try {
      answer = await this.#options.send(entry);
    } catch (error) {
      const problem = toProblem(error);
      await (isAway(problem) ? this.#wait(entry, problem, error) : this.#refused(entry, problem, error));
      return isAway(problem) ? problem : null;
    }
    await this.#made(entry, answer);
    return null;
  }

  async #made(entry: Entry, answer: unknown) {
    for (const one of this.#entries.filter((one) => one.about === entry.about && one.id !== entry.id)) {
      const moved = this.#options.after(one, entry, answer);
      // The next one is kept as it will be sent before this one is forgotten.
      if (moved !== one) await this.#replace(moved);
    }
    await this.#forget(entry.id);
    // Its answer is known by the time it waits no more: nobody acts in between on what was there before it.
    const waiting = this.#attached.get(entry.id);
    this.#options.onMade?.(entry, answer, waiting !== undefined);
    for (const verdict of [...(waiting?.first ?? []), ...(waiting?.last ?? [])]) verdict.resolve(answer);
    this.#letGo(entry.id);
  }

  async #refused(entry: Entry, problem: Problem, error: unknown) {
    const isLetGo = this.#attached.get(entry.id)?.keeps(problem) === false;
    if (isLetGo) await this.#forget(entry.id);
    const waiting = this.#attached.get(entry.id);
    this.#attached.delete(entry.id);
    if (!isLetGo) await this.#replace({ ...entry, problem });
    for (const verdict of [...(waiting?.first ?? []), ...(waiting?.last ?? [])]) verdict.reject(error);
    if (isLetGo) this.#letGo(entry.id);
  }

  /** All wait: this one has been tried, those behind it would overtake it. */
  async #wait(entry: Entry, problem: Problem, error: unknown) {
    await this.#replace({ ...entry, problem });
    for (const one of this.#entries.filter(({ problem: other }) => !other || isAway(other)))
      for (const verdict of this.#attached.get(one.id)?.first ?? []) verdict.reject(error);
  }

  /** Change a wish that still waits; one that was let go stays gone. */
  async #replace(entry: Entry) {
    if (!this.#entries.some((one) => one.id === entry.id)) return;
    this.#show(this.#entries.map((one) => (one.id === entry.id ? entry : one)));
    await this.#keep(entry);
  }

  #letGo(id: string) {
    this.#attached.delete(id);
    this.#show(this.#entries.filter((entry) => entry.id !== id));
  }

  async #forget(id: string) {
    await this.#options.store.remove(id).catch(() => undefined);
  }

  #show(entries: Entry[]) {
    this.#entries = entries;
    for (const listener of this.#listeners) listener();
  }

  async #keep(entry: Entry) {
    // Storage that is full: it waits in the page, as everything that waits does.
    await this.#options.store.put(entry).catch(() => undefined);
  }
}

function promised(): [Promise<unknown>, Verdict] {
  const { promise, ...verdict } = Promise.withResolvers<unknown>();
  // Whoever asked may have gone: then nobody hears of a refusal but the list.
  promise.catch(() => undefined);
  return [promise, verdict];
}
