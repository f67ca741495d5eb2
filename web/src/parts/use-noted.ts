import { useEffect, useRef, useState } from 'react';
import type { Entry, Wish } from '~/offline/outbox';
import { useOutbox } from '~/offline/use-outbox';
import { type Calling, getOutbox, onUnawaited, wish } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';

type Noted<Body> = { id: string; body: Body };
type Told = Pick<Wish, 'words' | 'noun' | 'href'>;

/**
 * What is noted about something at the bench, at the stove or in the shop: it counts here until what the server shows
 * has it, so that it never seems undone in between.
 */
export function useNoted<Body>(
  about: string,
  /** Ask the server for what it shows. */
  show: () => Promise<unknown>,
  /** Whether what waits is a note; a receipt, say, is not. */
  isNote: (entry: Entry) => boolean = () => true,
) {
  const waiting = useOutbox().filter((entry) => entry.about === about && isNote(entry));
  const [unkept, setUnkept] = useState<readonly string[]>([]);
  const [made, setMade] = useState<readonly Noted<Body>[]>([]);
  const done = useRef<readonly Noted<Body>[]>([]);
  const keepDone = (next: readonly Noted<Body>[]) => {
    done.current = next;
    setMade(next);
  };
  /** Show what the server has, once nothing more is on its way: of many that are handed in the last one asks. */
  const settle = async () => {
    if (getOutbox().entries.some((entry) => entry.about === about && isNote(entry))) return;
    const shown = new Set(done.current.map((one) => one.id));
    await show();
    keepDone(done.current.filter((one) => !shown.has(one.id)));
  };
  const handedIn = useRef<(one: Noted<Body>) => void>(() => undefined);
  handedIn.current = (one) => {
    keepDone([...done.current, one]);
    // The wish still waits in this moment: whether it was the last one is known in the next.
    queueMicrotask(() => void settle());
  };
  // What a page left behind that is gone is handed in by this one.
  const isHeard = useRef(isNote);
  isHeard.current = isNote;
  useEffect(
    () =>
      onUnawaited(about, (entry) => {
        if (isHeard.current(entry)) handedIn.current({ id: entry.id, body: entry.body as Body });
      }),
    [about],
  );
  const bodies = (entries: readonly Entry[]) => [
    ...made.map((one) => one.body),
    ...entries.map((entry) => entry.body as Body),
  ];
  return {
    /** Note something: `kept` once the browser has it, `last` once the server has. */
    note: <View>(made: Calling<View>, told: Told) => {
      const { id, kept, last } = wish(made, { about, ...told });
      setUnkept((now) => [...now, id]);
      last.then(
        () => handedIn.current({ id, body: made.body as Body }),
        (error) => {
          showProblem(error);
          void settle();
        },
      );
      return {
        kept: kept.then(() => setUnkept((now) => now.filter((one) => one !== id))),
        last: last as Promise<View>,
      };
    },
    /** What the server does not show yet, the oldest first; and of that what the browser has kept. */
    noted: bodies(waiting),
    kept: bodies(waiting.filter(({ id }) => !unkept.includes(id))),
    /** How many are not handed in. */
    toHandIn: waiting.length,
  };
}
