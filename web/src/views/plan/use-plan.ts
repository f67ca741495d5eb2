import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ask, type Problem, type Schemas, toProblem } from '~/lib/api';
import { whatMoved } from '~/lib/moved';
import { batchesQuery, planQuery } from '~/lib/queries';

export type Plan = Schemas['PlanView'];
export type Change = Schemas['ChangesBody']['changes'][number];

/** Changes, made from the plan as it is when they are sent. */
type Maker = (plan: Plan) => Change[];
type Kind = 'do' | 'undo' | 'redo';

/** A command the server did not take yet: it was made on an older plan, or is unlikely. Nothing of it is lost. */
export type Waiting = { problem: Problem; make: Maker; kind: Kind };

/**
 * The plan of a batch and the one way to change it. Commands are sent one after the other, each on the
 * newest version, so quick keys do not overtake each other.
 */
export function usePlan(batchId: string) {
  const queries = useQueryClient();
  const plan = useQuery(planQuery(batchId));
  const [moved, setMoved] = useState<Map<string, number>>(new Map());
  const [undoable, setUndoable] = useState<Change[][]>([]);
  const [redoable, setRedoable] = useState<Change[][]>([]);
  const [waiting, setWaiting] = useState<Waiting | null>(null);
  const [pending, setPending] = useState(0);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const { queryKey } = planQuery(batchId);
  const [foreign, setForeign] = useState<string | null>(null);

  // Changes of other windows are pushed. They are taken when nothing of ours is on its way, and shown like any change.
  const take = useRef<(version: number, by: string) => void>(() => undefined);
  take.current = (version, by) => {
    queue.current = queue.current.then(async () => {
      const before = queries.getQueryData(queryKey);
      if (!before || before.batch.version >= version) return;
      await queries.refetchQueries({ queryKey, exact: true });
      const after = queries.getQueryData(queryKey);
      if (!after) return;
      setMoved(whatMoved(before, after));
      setForeign(by);
      // What they changed must not be taken back by our undo without a word.
      setUndoable([]);
      setRedoable([]);
    });
  };
  useEffect(() => {
    const source = new EventSource(`/api/v1/batches/${batchId}/events`);
    source.onmessage = (event: MessageEvent<string>) => {
      const { version, by } = JSON.parse(event.data) as { version: number; by: string };
      take.current(version, by);
    };
    return () => source.close();
  }, [batchId]);

  async function send(make: Maker, kind: Kind, confirmed: boolean): Promise<Problem | null> {
    const current = queries.getQueryData(queryKey);
    if (!current) return null;
    const changes = make(current);
    if (changes.length === 0) return null;
    try {
      const answer = await ask(
        api.POST('/api/v1/batches/{batch_id}/changes', {
          params: { path: { batch_id: batchId } },
          body: { version: current.batch.version, changes, confirmed },
        }),
      );
      setForeign(null);
      setMoved(whatMoved(current, answer.plan));
      queries.setQueryData(queryKey, answer.plan);
      void queries.invalidateQueries({ queryKey: batchesQuery.queryKey });
      setWaiting(null);
      if (kind === 'undo') setRedoable((stack) => [...stack, answer.inverse]);
      else setUndoable((stack) => [...stack, answer.inverse]);
      if (kind === 'do') setRedoable([]);
      return null;
    } catch (error) {
      const problem = toProblem(error);
      if (['stale', 'doubtful', 'unreachable'].includes(problem.type)) {
        // The very same changes are sent again, so that a weighing whose answer was lost counts once.
        setWaiting({ problem, make: () => changes, kind });
      }
      return problem;
    }
  }

  function enqueue(make: Maker, kind: Kind, confirmed = false): Promise<Problem | null> {
    setPending((count) => count + 1);
    const done = queue.current.then(() => send(make, kind, confirmed));
    queue.current = done;
    return done.finally(() => setPending((count) => count - 1));
  }

  return {
    plan,
    moved,
    /** Who changed the plan last in another window, until the next change here. */
    foreign,
    waiting,
    busy: pending > 0,
    canUndo: undoable.length > 0,
    canRedo: redoable.length > 0,
    change: (make: Maker) => enqueue(make, 'do'),
    undo: () => {
      const last = undoable.at(-1);
      if (!last) return;
      setUndoable(undoable.slice(0, -1));
      void enqueue(() => last, 'undo', true);
    },
    redo: () => {
      const last = redoable.at(-1);
      if (!last) return;
      setRedoable(redoable.slice(0, -1));
      void enqueue(() => last, 'redo', true);
    },
    /** Send what waits again: confirmed, or to the newest plan. */
    retry: async () => {
      if (!waiting) return;
      if (waiting.problem.type === 'stale') await queries.refetchQueries({ queryKey });
      await enqueue(waiting.make, waiting.kind, waiting.problem.type === 'doubtful');
    },
    /** Record what waits with these vessels instead: the weighing without its slip. */
    retryWith: async (vessels: Schemas['VesselView'][]) => {
      if (!waiting) return;
      const { make, kind } = waiting;
      await enqueue(
        (plan) =>
          make(plan).map((change) =>
            change.kind === 'weigh' ? { ...change, command_id: crypto.randomUUID(), vessels } : change,
          ),
        kind,
      );
    },
    drop: async () => {
      if (waiting?.problem.type === 'stale') {
        await queries.refetchQueries({ queryKey });
        setUndoable([]);
        setRedoable([]);
      }
      setWaiting(null);
    },
  };
}

export type PlanDesk = ReturnType<typeof usePlan>;
