import { useEffect, useRef, useState } from 'react';
import { deviceName } from '~/lib/device';
import { useDraft } from '~/lib/use-draft';
import { useOutbox } from '~/offline/use-outbox';
import { call, getOutbox, onUnawaited, wish } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import type { Sent } from '~/views/batch/fill/waiting';

/** What happened, before it is said when and where. */
export type Fact = Partial<Sent> & Pick<Sent, 'event'>;
type Mark = { id: string; words: string };
const NOTHING: readonly Mark[] = [];

/**
 * Note what happens at the scale: it counts here once the browser has kept it, and is handed in when the server answers.
 */
export function useFills(batchId: string, version: number, onNoted: () => Promise<unknown>) {
  const about = `filling ${batchId}`;
  const waiting = useOutbox().filter((entry) => entry.about === about);
  const [unkept, setUnkept] = useState<readonly string[]>([]);
  const [made, setMade] = useState<readonly Sent[]>([]);
  const done = useRef<readonly Sent[]>([]);
  const keepDone = (next: readonly Sent[]) => {
    done.current = next;
    setMade(next);
  };
  /** Show what the server has, once nothing more is on its way: of many that are handed in the last one asks. */
  const settle = async () => {
    if (getOutbox().entries.some((entry) => entry.about === about)) return;
    const shown = new Set(done.current.map((one) => one.id));
    await onNoted();
    keepDone(done.current.filter((one) => !shown.has(one.id)));
  };
  /** The server has it: it counts here until what the server shows has it too. */
  const handedIn = useRef<(fact: Sent) => void>(() => undefined);
  handedIn.current = (fact) => {
    keepDone([...done.current, fact]);
    // The wish still waits in this moment: whether it was the last one is known in the next.
    queueMicrotask(() => void settle());
  };
  // What a page left behind that is gone is handed in by this one.
  useEffect(() => onUnawaited(about, (entry) => handedIn.current(entry.body as Sent)), [about]);
  const send = (fact: Fact & { id: string }, words: string) => {
    const body = {
      grams: 0,
      text: '',
      version,
      ...fact,
      device: deviceName(),
      happened_at: new Date().toISOString(),
    };
    const path = { batch_id: batchId };
    const { kept, last } = wish(
      call('post', '/api/v1/batches/{batch_id}/filling/facts', { params: { path }, body }),
      { about, words: [words], noun: 'fill', href: `/batches/${batchId}/fill` },
    );
    setUnkept((now) => [...now, fact.id]);
    last.then(
      () => handedIn.current(body),
      (error) => {
        showProblem(error);
        void settle();
      },
    );
    return kept.then(() => setUnkept((now) => now.filter((id) => id !== fact.id)));
  };
  // What was noted here may be taken back after a reload too.
  const [marks, setMarks] = useDraft<readonly Mark[]>(`fill/noted/${batchId}`, NOTHING);
  const facts = waiting.map((entry) => entry.body as Sent);
  return {
    /** Note a fact that happened now; it is over once the browser has kept it. */
    note: (fact: Fact, words: string) => {
      const id = crypto.randomUUID();
      setMarks((now) => [...now, { id, words }]);
      return send({ ...fact, id }, words);
    },
    /** What was noted here last, and may be taken back. */
    last: marks.at(-1),
    takeBack: (mark: Mark) => {
      const id = crypto.randomUUID();
      void send({ id, event: 'taken back', of: mark.id }, `Taken back: ${mark.words}`);
      setMarks((now) => now.filter((one) => one.id !== mark.id));
    },
    /** What the server does not show yet, the oldest first. */
    waiting: [...made, ...facts.filter(({ id }) => !unkept.includes(id))],
    /** How many are not handed in. */
    toHandIn: waiting.length,
  };
}
