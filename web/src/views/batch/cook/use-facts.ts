import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { deviceName } from '~/lib/device';
import { call } from '~/offline/writes';
import { useNoted } from '~/parts/use-noted';
import type { Fact } from '~/views/batch/cook/waiting';

/** What was noted on this device and may be taken back. */
export type Mark = { id: string; words: string };

/** A step that is begun. */
export const begunOf = (step: Schemas['CookStepView']): Fact => ({ event: 'begun', task: step.key });

const ago = (minutes: number) => new Date(Date.now() - minutes * 60_000).toISOString();

/** Note what happens while cooking. */
export function useFacts(batchId: string, show: () => Promise<unknown>) {
  const { note, noted, toHandIn } = useNoted<Fact>(`cooking ${batchId}`, show);
  const send = (fact: Fact, words: string, agoMin = 0) => {
    const path = { batch_id: batchId };
    const body = { task: '', text: '', vessel: '', ...fact, device: deviceName(), happened_at: ago(agoMin) };
    note(call('post', '/api/v1/batches/{batch_id}/cooking/facts', { params: { path }, body }), {
      words: [words],
      noun: 'note',
      href: `/batches/${batchId}/cook`,
    });
  };
  const [marks, setMarks] = useState<readonly Mark[]>([]);
  return {
    /** Note a fact that happened now, or so many minutes ago. */
    note: (fact: Fact, words: string, agoMin = 0) => {
      const id = crypto.randomUUID();
      send({ ...fact, id }, words, agoMin);
      setMarks((now) => [...now, { id, words }]);
    },
    /** What was noted here last. */
    last: marks.at(-1),
    takeBack: (mark: Mark) => {
      send({ event: 'taken back', task: mark.id }, `Taken back: ${mark.words}`);
      setMarks((now) => now.filter((one) => one.id !== mark.id));
    },
    /** What the server does not show yet, the oldest first. */
    waiting: noted,
    toHandIn,
  };
}
