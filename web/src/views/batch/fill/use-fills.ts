import { deviceName } from '~/lib/device';
import { useDraft } from '~/lib/use-draft';
import { call } from '~/offline/writes';
import { useNoted } from '~/parts/use-noted';
import type { Sent } from '~/views/batch/fill/waiting';

/** What happened, before it is said when and where. */
export type Fact = Partial<Sent> & Pick<Sent, 'event'>;
type Mark = { id: string; words: string };
const NOTHING: readonly Mark[] = [];

/** Note what happens at the scale. */
export function useFills(batchId: string, version: number, show: () => Promise<unknown>) {
  const { note, kept, toHandIn } = useNoted<Sent>(`filling ${batchId}`, show);
  const send = (fact: Fact & { id: string }, words: string) => {
    const path = { batch_id: batchId };
    const body = {
      grams: 0,
      text: '',
      version,
      ...fact,
      device: deviceName(),
      happened_at: new Date().toISOString(),
    };
    return note(call('post', '/api/v1/batches/{batch_id}/filling/facts', { params: { path }, body }), {
      words: [words],
      noun: 'fill',
      href: `/batches/${batchId}/fill`,
    }).kept;
  };
  // What was noted here may be taken back after a reload too.
  const [marks, setMarks] = useDraft<readonly Mark[]>(`fill/noted/${batchId}`, NOTHING);
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
    /** What the server does not show yet, the oldest first; a fill counts once the browser has kept it. */
    waiting: kept,
    toHandIn,
  };
}
