import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { deviceName } from '~/lib/device';
import { useDraft } from '~/lib/use-draft';
import { useOutbox } from '~/offline/use-outbox';
import { call, getOutbox, write } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import type { Sent } from '~/views/batch/fill/waiting';

/** What happened, before it is said when and where. */
export type Fact = Partial<Sent> & Pick<Sent, 'event'>;
type Mark = { id: string; words: string };
const NOTHING: readonly Mark[] = [];

/** Note what happens at the scale: it counts here at once, and is handed in when the server answers. */
export function useFills(batchId: string, version: number, onNoted: () => Promise<unknown>) {
  const about = `filling ${batchId}`;
  const waiting = useOutbox().filter((entry) => entry.about === about);
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
  const note = useMutation({
    mutationFn: ({ fact, words }: { fact: Fact & { id: string }; words: string }) =>
      write(
        call('post', '/api/v1/batches/{batch_id}/filling/facts', {
          params: { path: { batch_id: batchId } },
          body: {
            grams: 0,
            text: '',
            version,
            ...fact,
            device: deviceName(),
            happened_at: new Date().toISOString(),
          },
        }),
        { about, words: [words], noun: 'fill', href: `/batches/${batchId}/fill` },
      ),
    // It counts here until what the server shows has it.
    onSuccess: (_, { fact }) => {
      keepDone([...done.current, { grams: 0, text: '', device: '', version, ...fact }]);
      return settle();
    },
    onError: (error) => {
      showProblem(error);
      return settle();
    },
  });
  // What was noted here may be taken back after a reload too.
  const [marks, setMarks] = useDraft<readonly Mark[]>(`fill/noted/${batchId}`, NOTHING);
  return {
    /** Note a fact that happened now; its id. */
    note: (fact: Fact, words: string) => {
      const id = crypto.randomUUID();
      note.mutate({ fact: { ...fact, id }, words });
      setMarks((now) => [...now, { id, words }]);
      return id;
    },
    /** What was noted here last, and may be taken back. */
    last: marks.at(-1),
    takeBack: (mark: Mark) => {
      const id = crypto.randomUUID();
      note.mutate({ fact: { id, event: 'taken back', of: mark.id }, words: `Taken back: ${mark.words}` });
      setMarks((now) => now.filter((one) => one.id !== mark.id));
    },
    /** What the server does not show yet, the oldest first. */
    waiting: [...made, ...waiting.map((entry) => entry.body as Sent)],
    /** How many are not handed in. */
    toHandIn: waiting.length,
  };
}
