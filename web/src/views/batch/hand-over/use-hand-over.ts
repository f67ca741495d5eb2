import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { Schemas } from '~/api/client';
import { type Calling, call, write } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import { handOverQuery } from '~/views/batch/frame/queries';
import { useToldOf } from '~/views/batch/frame/use-told-of';
import { containerName, type Placed } from '~/views/batch/hand-over/words';

export type Move = Schemas['PlacementInput'];

/** Handing a batch over: what there is, and what can be changed of it. Every change is followed by what it leads to. */
export function useHandOver(batchId: string) {
  const queries = useQueryClient();
  const query = useQuery(handOverQuery(batchId));
  const renew = () => queries.invalidateQueries({ queryKey: handOverQuery(batchId).queryKey });
  useToldOf(batchId, () => void renew());
  const path = { batch_id: batchId };
  const told = (words: string) => ({
    about: `hand over ${batchId}`,
    words: [words],
    href: `/batches/${batchId}/hand-over`,
  });
  const { mutateAsync, isPending } = useMutation({
    mutationFn: ({ made, words }: { made: Calling<unknown>; words: string }) => write(made, told(words)),
    onSettled: renew,
    onError: showProblem,
  });
  /** A refusal is told in words; who waits for it need not say it again. */
  const save = (made: Calling<unknown>, words: string) => mutateAsync({ made, words });
  const place = (placements: Move[], words: string) =>
    save(
      call('post', '/api/v1/batches/{batch_id}/hand-over/placements', {
        params: { path },
        body: { placements },
      }),
      words,
    );
  const back = (one: Placed): Move => ({
    row_id: one.row_id,
    container: one.number,
    eaten_on: one.eaten_on,
    store: one.store,
    by_hand: one.by_hand,
  });
  return {
    query,
    isSaving: isPending,
    /** Put containers on other days; `before` is where they were, for taking it back. */
    move: (placements: Move[], before: Placed[], words: string) =>
      place(placements, words).then(
        () =>
          toast(words, {
            action: {
              label: 'Undo',
              onClick: () => void place(before.map(back), `${listed(before)} back`).catch(() => undefined),
            },
          }),
        () => undefined,
      ),
    /** Give the containers of one client, or of all, their days. */
    make: (clientId: string | null, keepByHand: boolean) =>
      save(
        call('post', '/api/v1/batches/{batch_id}/hand-over/calendar', {
          params: { path },
          body: { client_id: clientId, keep_by_hand: keepByHand },
        }),
        'Days for the containers',
      ).catch(() => undefined),
    choose: (componentId: string, category: string | null) =>
      save(
        call('put', '/api/v1/batches/{batch_id}/hand-over/shelf/{component_id}', {
          params: { path: { ...path, component_id: componentId } },
          body: { category },
        }),
        'How long a component keeps',
      ).catch(() => undefined),
    setWeek: (clientId: string, body: Schemas['WeekInput']) =>
      write(
        call('put', '/api/v1/batches/{batch_id}/hand-over/weeks/{client_id}', {
          params: { path: { ...path, client_id: clientId } },
          body,
        }),
        told('When a client eats'),
      ).finally(renew),
  };
}

export type HandOverDesk = ReturnType<typeof useHandOver>;

const listed = (containers: Placed[]) => containers.map(containerName).join(' and ');
