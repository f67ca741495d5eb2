import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { deviceName } from '~/lib/device';
import { useOutbox } from '~/offline/use-outbox';
import { call, write } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import type { Fact } from '~/views/batch/cook/waiting';

type Noted = { fact: Fact; words: string; agoMin: number };
/** What was noted on this device and may be taken back. */
export type Mark = { id: string; words: string };

/** A step that is begun. */
export const begunOf = (step: Schemas['CookStepView']): Fact => ({ event: 'begun', task: step.key });

const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();

const aboutOf = (batchId: string) => `cooking ${batchId}`;

/** Note what happens while cooking: it counts here at once, and is handed in when the server answers. */
export function useFacts(batchId: string, onNoted: () => void) {
  const about = aboutOf(batchId);
  const entries = useOutbox();
  const waiting = entries.filter((entry) => entry.about === about);
  const note = useMutation({
    mutationFn: ({ fact, words, agoMin }: Noted) =>
      write(
        call('post', '/api/v1/batches/{batch_id}/cooking/facts', {
          params: { path: { batch_id: batchId } },
          body: { task: '', text: '', vessel: '', ...fact, device: deviceName(), happened_at: ago(agoMin) },
        }),
        { about, words: [words], noun: 'note', href: `/batches/${batchId}/cook` },
      ),
    onSuccess: onNoted,
    onError: showProblem,
  });
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  return {
    /** Note a fact that happened now, or so many minutes ago. */
    note: (fact: Fact, words: string, agoMin = 0) => {
      const id = crypto.randomUUID();
      note.mutate({ fact: { ...fact, id }, words, agoMin });
      setMarks((now) => [...now, { id, words }]);
    },
    /** What was noted here last. */
    last: marks.at(-1),
    takeBack: (mark: Mark) => {
      const words = `Taken back: ${mark.words}`;
      note.mutate({ fact: { event: 'taken back', task: mark.id }, words, agoMin: 0 });
      setMarks((now) => now.filter((one) => one.id !== mark.id));
    },
    waiting: waiting.map((entry) => entry.body as Fact),
  };
}
