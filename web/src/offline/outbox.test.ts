import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { type Problem, ProblemError } from '~/api/client';
import { type Entry, isServerAway, Outbox, type Wish } from '~/offline/outbox';
import { openStore } from '~/offline/store';

const problem = (type: string, status: number): Problem => ({
  type,
  title: type,
  status,
  detail: type,
  instance: '',
  errors: [],
  mends: [],
});
const lost = () => new ProblemError(problem('unreachable', 0));
const refusal = (type = 'invalid') => new ProblemError(problem(type, 422));

const pin = (grams: number): Wish => ({
  method: 'post',
  path: '/changes',
  body: { version: 1, grams },
  about: 'batch/1',
  words: [`${grams} g`],
  href: '/batches/1',
});

/** A server that makes each id once, and what it was asked. */
function server() {
  const made: string[] = [];
  const asked: Entry[] = [];
  return {
    made,
    asked,
    take: (entry: Entry) => {
      asked.push(entry);
      if (!made.includes(entry.id)) made.push(entry.id);
      return { id: entry.id };
    },
  };
}

/** Until whatever comes next: a press, for one. */
const task = () => new Promise<void>((done) => setTimeout(done));

let count = 0;
const fresh = () => openStore(`outbox-${count++}`);
const byHand = () => {
  let again: () => void = () => undefined;
  return {
    later: (next: () => void) => {
      again = next;
    },
    tryAgain: () => again(),
  };
};

describe('the outbox', () => {
  it('sends in order, one after the other, and then keeps nothing', async () => {
    const store = await fresh();
    const there = server();
    const outbox = new Outbox({ store, send: async (entry) => there.take(entry) });
    await outbox.open('tamsin', 'tab');
    const sent = [10, 20, 30].map((grams) => outbox.put(pin(grams)));
    await Promise.all(sent.map(({ last }) => last));
    expect(there.made).toEqual(sent.map(({ id }) => id));
    expect(outbox.entries).toEqual([]);
    expect(await store.read()).toEqual([]);
  });

  it('keeps a wish before it is sent', async () => {
    const store = await fresh();
    const outbox = new Outbox({
      store,
      send: async (entry) => {
        expect((await store.read()).map(({ id }) => id)).toContain(entry.id);
      },
    });
    await outbox.open('tamsin', 'tab');
    await outbox.put(pin(10)).last;
  });

  it('says that it has a wish once it has', async () => {
    const store = await fresh();
    const outbox = new Outbox({ store, send: () => new Promise(() => undefined) });
    await outbox.open('tamsin', 'tab');
    const { id, kept } = outbox.put(pin(10));
    await kept;
    expect((await store.read()).map((entry) => entry.id)).toEqual([id]);
  });

  it.each(['made', 'refused'])('has told of a wish that was %s by the time it waits no more', async (how) => {
    const store = await fresh();
    const slow = { ...store, remove: (id: string) => task().then(() => store.remove(id)) };
    const outbox = new Outbox({
      store: slow,
      send: async () => {
        if (how === 'refused') throw refusal();
      },
    });
    await outbox.open('tamsin', 'tab');
    let isTold = false;
    const told = () => {
      isTold = true;
    };
    const { last } = outbox.put(pin(10));
    last.then(told, told);
    const seen: boolean[] = [];
    while (!isTold || outbox.entries.length > 0) {
      await task();
      if (outbox.entries.length === 0) seen.push(isTold);
    }
    expect(seen).toEqual([true]);
  });

  it('waits for the server, in order, and says so once', async () => {
    const clock = byHand();
    const there = server();
    let isThere = false;
    const outbox = new Outbox({
      store: await fresh(),
      later: clock.later,
      send: async (entry) => {
        if (!isThere) throw lost();
        return there.take(entry);
      },
    });
    await outbox.open('tamsin', 'tab');
    const sent = [10, 20].map((grams) => outbox.put(pin(grams)));
    for (const { first } of sent) await expect(first).rejects.toThrow('unreachable');
    expect(isServerAway(outbox.entries)).toBe(true);
    expect(outbox.entries.map(({ words }) => words[0])).toEqual(['10 g', '20 g']);
    isThere = true;
    clock.tryAgain();
    await Promise.all(sent.map(({ last }) => last));
    expect(there.made).toEqual(sent.map(({ id }) => id));
  });

  it('sends a wish whose answer was lost again under the same id', async () => {
    const clock = byHand();
    const there = server();
    let answers = 0;
    const outbox = new Outbox({
      store: await fresh(),
      later: clock.later,
      send: async (entry) => {
        const answer = there.take(entry);
        if (answers++ === 0) throw lost();
        return answer;
      },
    });
    await outbox.open('tamsin', 'tab');
    const { id, first, last } = outbox.put(pin(10));
    await expect(first).rejects.toThrow();
    clock.tryAgain();
    expect(await last).toEqual({ id });
    expect(there.asked.map((entry) => entry.id)).toEqual([id, id]);
    expect(there.made).toEqual([id]);
  });

  it('hands a refusal to whoever waits, and goes on', async () => {
    const there = server();
    const outbox = new Outbox({
      store: await fresh(),
      send: async (entry) => {
        if (entry.words[0] === '10 g') throw refusal();
        return there.take(entry);
      },
    });
    await outbox.open('tamsin', 'tab');
    const [bad, good] = [outbox.put(pin(10)), outbox.put(pin(20))];
    await expect(bad.last).rejects.toThrow('invalid');
    await good.last;
    expect(outbox.entries).toEqual([]);
  });

  it('keeps a refusal that somebody has to decide about, and sends it anew when they did', async () => {
    const store = await fresh();
    const outbox = new Outbox({
      store,
      send: async (entry) => {
        if ((entry.body as { version: number }).version === 1) throw refusal('stale');
      },
    });
    await outbox.open('tamsin', 'tab');
    const sent = outbox.put(pin(10), ({ type }) => type === 'stale');
    await expect(sent.first).rejects.toThrow('stale');
    expect((await store.read()).map((entry) => entry.problem?.type)).toEqual(['stale']);
    const again = outbox.again(
      sent.id,
      (entry) => ({ ...entry, body: { version: 2, grams: 10 } }),
      () => true,
    );
    await again.last;
    expect(outbox.entries).toEqual([]);
  });

  it('takes up after the page was gone what it had not sent, of this person only', async () => {
    const store = await fresh();
    const dead = new Outbox({ store, later: () => undefined, send: async () => Promise.reject(lost()) });
    await dead.open('tamsin', 'tab');
    for (const grams of [10, 20]) await dead.put(pin(grams)).first.catch(() => undefined);
    const there = server();
    const others = new Outbox({ store, send: async (entry) => there.take(entry) });
    await others.open('milo', 'tab');
    expect(others.entries).toEqual([]);
    const heard: string[] = [];
    const back = new Outbox({
      store,
      send: async (entry) => there.take(entry),
      onMade: (entry, _, isAwaited) =>
        heard.push(`${entry.words[0]}, ${isAwaited ? 'awaited' : 'not awaited'}`),
    });
    await back.open('tamsin', 'tab');
    await back.settled('batch/1');
    expect(heard).toEqual(['10 g, not awaited', '20 g, not awaited']);
    expect(await store.read()).toEqual([]);
  });

  it('leaves to another tab what is its own as long as it lives', async () => {
    const store = await fresh();
    const there = new Outbox({ store, later: () => undefined, send: async () => Promise.reject(lost()) });
    await there.open('tamsin', 'there');
    await there.put(pin(10)).first.catch(() => undefined);
    const asked: string[] = [];
    const here = new Outbox({ store, send: async (entry) => asked.push(entry.id) });
    await here.open('tamsin', 'here', () => false);
    expect(here.entries).toEqual([]);
    await here.open('tamsin', 'here', (tab) => tab === 'there');
    await here.settled('batch/1');
    expect(asked).toHaveLength(1);
  });

  it('lets go of a wish for good', async () => {
    const store = await fresh();
    const outbox = new Outbox({ store, later: () => undefined, send: async () => Promise.reject(lost()) });
    await outbox.open('tamsin', 'tab');
    const sent = outbox.put(pin(10));
    await sent.first.catch(() => undefined);
    await outbox.drop(sent.id);
    expect(outbox.entries).toEqual([]);
    expect(await store.read()).toEqual([]);
  });

  it('moves what waits behind a wish to the version it led to', async () => {
    const versions: number[] = [];
    const outbox = new Outbox({
      store: await fresh(),
      send: async (entry) => {
        versions.push((entry.body as { version: number }).version);
        return versions.length + 1;
      },
      after: (waiting, _, answer) => ({ ...waiting, body: { ...(waiting.body as object), version: answer } }),
    });
    await outbox.open('tamsin', 'tab');
    await Promise.all([10, 20, 30].map((grams) => outbox.put(pin(grams)).last));
    expect(versions).toEqual([1, 2, 3]);
  });

  it('makes every wish once and in order through lost requests, lost answers and killed pages', async () => {
    for (let run = 0; run < 200; run++) {
      let seed = run * 2654435761 + 1;
      const random = () => {
        seed = (seed * 1103515245 + 12345) % 2147483648;
        return seed / 2147483648;
      };
      const store = await fresh();
      const there = server();
      const wished: string[] = [];
      let page = 0;
      const open = async () => {
        const own = ++page;
        const outbox = new Outbox({
          store,
          later: (again) => void setTimeout(() => own === page && again(), 0),
          send: async (entry) => {
            // A page that was killed hears of nothing any more.
            if (own !== page) return new Promise(() => undefined);
            if (random() < 0.3) throw lost();
            const answer = there.take(entry);
            if (random() < 0.3) throw lost();
            return own === page ? answer : new Promise(() => undefined);
          },
        });
        await outbox.open('tamsin', 'tab');
        return outbox;
      };
      let outbox = await open();
      for (let step = 0; step < 8; step++) {
        const sent = outbox.put(pin(step));
        if (random() < 0.7) await sent.first.catch(() => undefined);
        const kept = await store.read();
        // What was not kept yet when the page was killed was not promised to anybody.
        if (kept.some(({ id }) => id === sent.id) || there.made.includes(sent.id)) wished.push(sent.id);
        if (random() < 0.2) outbox = await open();
      }
      while ((await store.read()).length) await new Promise((done) => setTimeout(done, 0));
      expect(there.made.filter((id) => wished.includes(id))).toEqual(wished);
      expect(new Set(there.made).size).toBe(there.made.length);
    }
  });
});
