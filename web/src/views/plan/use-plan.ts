import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Problem, type Schemas, toProblem } from '~/lib/api';
import { whatMoved } from '~/lib/moved';
import { batchesQuery, planQuery } from '~/lib/queries';
import { useDraft } from '~/lib/use-draft';
import { changeWords } from '~/views/plan/change-words';

export type Plan = Schemas['PlanView'];
export type Change = Schemas['ChangesBody']['changes'][number];

/** Changes, made from the plan as it is when they are sent. */
type Maker = (plan: Plan) => Change[];
type Kind = 'do' | 'undo' | 'redo';

/** A wish: its id is sent along, so the server makes it once however often it arrives. */
type Command = { id: string; changes: Change[]; kind: Kind };

/** A command the server did not take. Nothing of it is lost until the coach lets go of it. */
export type Waiting = { problem: Problem; command: Command };

/** Refusals that the same command may get past: others only the coach can mend. */
export const mayGoAgain = (problem: Problem) =>
  ['stale', 'unreachable', 'failed', 'not-signed-in'].includes(problem.type);

/** The server was not there, or not for us: what is typed meanwhile waits behind. */
const isAway = (problem: Problem) => ['unreachable', 'not-signed-in'].includes(problem.type);

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
  const [waiting, setWaiting] = useDraft<Waiting[]>(`plan/${batchId}`, NOTHING);
  const waits = useRef(waiting);
  waits.current = waiting;
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

  async function send(command: Command, confirmed: boolean): Promise<Problem | null> {
    const current = queries.getQueryData(queryKey);
    if (!current) return null;
    const { id, changes, kind } = command;
    try {
      const answer = await ask(
        api.POST('/api/v1/batches/{batch_id}/changes', {
          params: { path: { batch_id: batchId } },
          body: { version: current.batch.version, changes, confirmed, command_id: id },
        }),
      );
      setForeign(null);
      setMoved(whatMoved(current, answer.plan));
      queries.setQueryData(queryKey, answer.plan);
      void queries.invalidateQueries({ queryKey: batchesQuery.queryKey });
      forget(id);
      if (kind === 'undo') setRedoable((stack) => [...stack, answer.inverse]);
      else setUndoable((stack) => [...stack, answer.inverse]);
      if (kind === 'do') setRedoable([]);
      return null;
    } catch (error) {
      const problem = toProblem(error);
      if (problem.type === 'invalid') forget(id);
      else keep({ problem, command });
      // The batch was packed, or something of it is gone: the page shows what there is now.
      if (problem.type === 'closed' || problem.type === 'missing') {
        await queries.refetchQueries({ queryKey, exact: true });
      }
      return problem;
    }
  }

  const keep = (one: Waiting) => {
    const others = waits.current.filter(({ command }) => command.id !== one.command.id);
    const place = waits.current.findIndex(({ command }) => command.id === one.command.id);
    waits.current = place < 0 ? [...others, one] : waits.current.with(place, one);
    setWaiting(waits.current);
  };
  const forget = (id: string) => {
    if (!waits.current.some(({ command }) => command.id === id)) return;
    const left = waits.current.filter(({ command }) => command.id !== id);
    waits.current = left.length ? left : NOTHING;
    setWaiting(waits.current);
  };

  /** Send what waits for the server, in the order it was wished; the problem that still stands. */
  async function sendWaiting(): Promise<Problem | null> {
    for (const { problem, command } of [...waits.current]) {
      if (!isAway(problem)) continue;
      const still = await send(command, false);
      if (still && isAway(still)) return still;
    }
    return null;
  }

  function enqueue(work: () => Promise<Problem | null>): Promise<Problem | null> {
    setPending((count) => count + 1);
    const done = queue.current.then(work);
    queue.current = done;
    return done.finally(() => setPending((count) => count - 1));
  }

  const wish = (make: Maker, kind: Kind) =>
    enqueue(async () => {
      const away = await sendWaiting();
      const current = queries.getQueryData(queryKey);
      const changes = current ? make(current) : [];
      if (changes.length === 0) return null;
      const command = { id: crypto.randomUUID(), changes, kind };
      if (away) {
        keep({ problem: away, command });
        return away;
      }
      return send(command, kind !== 'do');
    });

  /** The refusal of a wish that no field shows. */
  const tell = async (wished: Promise<Problem | null>) => {
    const problem = await wished;
    if (problem?.type === 'invalid') toast.error(problem.detail);
  };

  const first = waiting[0] ?? null;
  return {
    plan,
    moved,
    /** Who changed the plan last in another window, until the next change here. */
    foreign,
    /** What the coach has to decide about next. */
    waiting: first,
    /** Everything that is typed and not saved, in words. */
    unsaved: waiting.flatMap(({ command }) =>
      command.changes.map((change, place) => ({
        id: `${command.id}/${place}`,
        words: plan.data ? changeWords(plan.data, change) : change.kind,
      })),
    ),
    busy: pending > 0,
    canUndo: undoable.length > 0,
    canRedo: redoable.length > 0,
    /** Make changes; the caller shows a value that makes no sense at its field. */
    change: (make: Maker) => wish(make, 'do'),
    /** Make changes that no field stands for: a refusal is told by the page. */
    act: (make: Maker) => tell(wish(make, 'do')),
    undo: () => {
      const last = undoable.at(-1);
      if (!last) return;
      setUndoable(undoable.slice(0, -1));
      void tell(wish(() => last, 'undo'));
    },
    redo: () => {
      const last = redoable.at(-1);
      if (!last) return;
      setRedoable(redoable.slice(0, -1));
      void tell(wish(() => last, 'redo'));
    },
    /** Send what waits again: confirmed, or to the newest plan. */
    retry: async () => {
      if (!first) return;
      if (first.problem.type === 'stale') await queries.refetchQueries({ queryKey });
      await tell(
        enqueue(() =>
          isAway(first.problem) ? sendWaiting() : send(first.command, first.problem.type === 'doubtful'),
        ),
      );
    },
    /** Record what waits with these vessels instead: the weighing without its slip. */
    retryWith: async (vessels: Schemas['VesselView'][]) => {
      if (!first) return;
      const changes = first.command.changes.map((change) =>
        change.kind === 'weigh' ? { ...change, vessels } : change,
      );
      forget(first.command.id);
      await tell(enqueue(() => send({ id: crypto.randomUUID(), changes, kind: first.command.kind }, false)));
    },
    drop: async () => {
      if (!first) return;
      // Nothing that was wished behind a lost answer is sensible without it.
      const dropped = isAway(first.problem)
        ? waits.current.map(({ command }) => command.id)
        : [first.command.id];
      for (const id of dropped) forget(id);
      if (first.problem.type === 'stale') {
        await queries.refetchQueries({ queryKey });
        setUndoable([]);
        setRedoable([]);
      }
    },
  };
}

const NOTHING: Waiting[] = [];

export type PlanDesk = ReturnType<typeof usePlan>;
