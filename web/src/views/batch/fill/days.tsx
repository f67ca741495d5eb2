import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { useRights } from '~/api/session';
import { day, plural, slotName, weight } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Notice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import type { Box, Filling } from '~/views/batch/fill/sequence';
import type { useFills } from '~/views/batch/fill/use-fills';
import { batchContainersQuery } from '~/views/containers/queries';

/** The containers of one row, and how many of them are packed today. */
type Row = { box: Box; count: number; now: number; closed: number };

/** The rows of a filling in their order. */
function rowsOf(filling: Filling): Row[] {
  const rows = new Map<string, Row>();
  for (const box of filling.containers) {
    const row = rows.get(box.row_id) ?? { box, count: 0, now: 0, closed: 0 };
    rows.set(box.row_id, {
      box: row.box,
      count: row.count + 1,
      now: row.now + (box.is_in_bulk ? 0 : 1),
      closed: row.closed + (box.is_closed ? 1 : 0),
    });
  }
  return [...rows.values()];
}

/** Pack one day at a time: how many of each row today, and how long the rest keeps in bulk. */
export function Days({
  batchId,
  filling,
  fills,
  onClose,
}: {
  batchId: string;
  filling: Filling;
  fills: ReturnType<typeof useFills>;
  onClose: () => void;
}) {
  const found = useQuery(batchContainersQuery(batchId, filling.facts)).data;
  const set = ({ box }: Row, now: number) =>
    fills.note(
      { event: 'kept in bulk', row_id: box.row_id, container: now + 1 },
      `${box.client}, ${box.slot}: ${plural(now, 'container')} today, the rest in bulk`,
    );
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title="Today and another day"
      detail="What is not packed today stays in bulk; its share of every pot is kept for it. Weigh the bulk again before you go on."
    >
      <ul className="divide-y divide-steel border-y border-steel">
        {rowsOf(filling).map((row) => (
          <li key={row.box.row_id} className="flex flex-wrap items-center gap-3 py-2">
            <span className="min-w-48 flex-1">
              <b>{row.box.client}</b>, {slotName(row.box.slot, row.box.day_type)}
            </span>
            <Button
              className="min-h-16 min-w-16 text-2xl"
              aria-label={`One less today for ${row.box.client}, ${row.box.slot}`}
              disabled={row.now <= row.closed}
              onClick={() => set(row, row.now - 1)}
            >
              −
            </Button>
            <span className="figures w-28 text-center">
              <b className="text-2xl">{row.now}</b> of {row.count}
            </span>
            <Button
              className="min-h-16 min-w-16 text-2xl"
              aria-label={`One more today for ${row.box.client}, ${row.box.slot}`}
              disabled={row.now >= row.count}
              onClick={() => set(row, row.now + 1)}
            >
              +
            </Button>
          </li>
        ))}
      </ul>
      {found?.bulk.length ? (
        <section aria-label="In bulk" className="mt-4">
          <h3 className="text-base">In bulk</h3>
          <ul>
            {found.bulk.map((one) => (
              <li key={one.component_id} className="flex justify-between gap-3 border-t border-steel py-1">
                <span>
                  {one.name}{' '}
                  <span className="text-sm text-muted">
                    {one.until === null || one.days === null
                      ? 'keeps without end'
                      : `until ${day(one.until)}, ${plural(one.days, 'day')} from cooking`}
                  </span>
                </span>
                <span className="figures font-bold">{weight(one.grams)}</span>
              </li>
            ))}
          </ul>
          {found.cautions.map((caution) => (
            <div key={caution} className="mt-2">
              <Notice tone="caution">{caution}</Notice>
            </div>
          ))}
        </section>
      ) : null}
      <div className="mt-4 flex justify-end">
        <Close>
          <Button look="main" className="min-h-16">
            Done
          </Button>
        </Close>
      </div>
    </Overlaid>
  );
}

/** What is not packed today, and what has left the kitchen: one line, where there is something to say. */
export function OtherDays({
  batchId,
  filling,
  onOpen,
}: {
  batchId: string;
  filling: Filling;
  onOpen: () => void;
}) {
  const { isCoach } = useRights();
  const queries = useQueryClient();
  const query = batchContainersQuery(batchId, filling.facts);
  const found = useQuery({ ...query, enabled: filling.is_packed }).data;
  const leave = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/batches/{batch_id}/containers/handed-over', {
          params: { path: { batch_id: batchId } },
        }),
        { about: 'containers', words: ['The containers left the kitchen'], href: `/batches/${batchId}/fill` },
      ),
    onSuccess: ({ handed_over }) => {
      void queries.invalidateQueries({ queryKey: ['containers'] });
      toast.success(`${plural(handed_over, 'container')} written down as out with their clients.`);
    },
    onError: showProblem,
  });
  if (filling.is_packed) {
    if (!found?.known || !isCoach) return null;
    return found.handed_over ? (
      <p className="self-center text-sm text-muted">
        {plural(found.handed_over, 'container')} left the kitchen.
      </p>
    ) : (
      <Button className="min-h-16" disabled={leave.isPending} onClick={() => leave.mutate()}>
        They left the kitchen
      </Button>
    );
  }
  const later = filling.containers.filter((box) => box.is_in_bulk).length;
  return (
    <Button className="min-h-16" onClick={onOpen}>
      {later ? `${plural(later, 'container')} another day` : 'Pack some another day'}
    </Button>
  );
}
