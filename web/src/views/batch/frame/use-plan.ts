import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { type Problem, type Schemas, toProblem } from '~/api/client';
import { useRights } from '~/api/session';
import { deviceName } from '~/lib/device';
import { whatMoved } from '~/lib/moved';
import { keepDraft } from '~/lib/use-draft';
import { type Call, type Entry, isAway, isServerAway, type Sent } from '~/offline/outbox';
import { useOutbox } from '~/offline/use-outbox';
import { call, getOutbox, onUnawaited } from '~/offline/writes';
import { changeWords } from '~/views/batch/frame/change-words';
import { askHistory, stepsQuery } from '~/views/batch/frame/queries';
import { useToldOf } from '~/views/batch/frame/use-told-of';
import { withWaiting } from '~/views/batch/frame/with-waiting';
import { askPlan, batchesQuery, planQuery } from '~/views/batches/queries';

export type Plan = Schemas['PlanView'];
export type Change = Schemas['Changes']['changes'][number];

/** Changes, made from the plan as it is when they are sent. */
type Maker = (plan: Plan) => Change[];
export type Step = Schemas['Step'];

/** A command the server did not take, or not yet. Nothing of it is lost until the coach lets go of it. */
type Waiting = { problem: Problem; entry: Entry };

/** Refusals that the same command may get past: others only the coach can mend. */
export const mayGoAgain = (problem: Problem) =>
  ['stale', 'unreachable', 'failed', 'not-signed-in'].includes(problem.type);

/** Who decides about a refusal: the field shows a value that makes no sense, all else waits beside the plan. */
const keptBesidePlan = (problem: Problem) => problem.type !== 'invalid';

const changesOf = (entry: Entry) => (entry.body as { changes?: Change[] } | undefined)?.changes ?? [];

/**
 * The plan of a batch and the one way to change it. Commands go through the outbox, one after the other, each made on
 * the plan as it is with those before it.
 */
export function usePlan(batchId: string) {
  const queries = useQueryClient();
  const plan = useQuery(planQuery(batchId));
  const [moved, setMoved] = useState<Map<string, number>>(new Map());
  // What was changed is told to the coach; a helper hears of their own with each answer.
  const { isCoach } = useRights();
  const steps = useQuery({ ...stepsQuery(batchId), enabled: isCoach }).data ?? NO_STEPS;
  const about = `batch/${batchId}`;
  const entries = useOutbox();
  const mine = entries.filter((entry) => entry.about === about);
  const first = mine.find((entry) => entry.problem !== undefined);
  const waiting: Waiting | null = first?.problem ? { problem: first.problem, entry: first } : null;
  const waits = waiting !== null && isAway(waiting.problem);
  const newest = mine.at(-1);
  const [taken, setTaken] = useState(0);
  const outbox = getOutbox();
  const { queryKey } = planQuery(batchId);
  const { queryKey: stepsKey } = stepsQuery(batchId);
  const [foreign, setForeign] = useState<{ by: string; words: string[] } | null>(null);

  /** The steps that our own last change led to, which are meant though the screen is about to show them. */
  const ledTo = useRef<Schemas['Steps']>(undefined);

  const steady = useRef<Promise<unknown>>(Promise.resolve());
  /** Do something once nothing of ours is on its way, in the order it was asked for. */
  const whenSettled = (work: () => Promise<unknown>) => {
    steady.current = steady.current.then(() => outbox.settled(about)).then(work, work);
  };

  /** Show a plan unless a newer one is shown: answers overtake each other. Whether it is shown. */
  const showNewest = (fresh: Plan) => {
    const shown = queries.getQueryData(queryKey);
    if (shown && shown.batch.version > fresh.batch.version) return false;
    void queries.cancelQueries({ queryKey, exact: true });
    queries.setQueryData(queryKey, fresh);
    return true;
  };

  /** Show what undo and redo do next; what was asked before this was known comes too late. */
  const showSteps = (fresh: Schemas['Steps']) => {
    void queries.cancelQueries({ queryKey: stepsKey, exact: true });
    return queries.setQueryData(stepsKey, fresh);
  };

  // Changes of other windows are pushed. They are taken when nothing of ours is on its way, and shown like any change.
  useToldOf(batchId, ({ version, by }) =>
    whenSettled(async () => {
      const before = queries.getQueryData(queryKey);
      if (!before || before.batch.version >= version) return;
      const after = await askPlan(batchId).catch(() => null);
      if (!after || !showNewest(after)) return;
      setMoved(whatMoved(before, after));
      setForeign({ by, words: [] });
      // Several may have come at once, or while this window was away: all since the plan it showed are told.
      if (!isCoach) return;
      const missed = await askHistory(batchId, MOST_TOLD, before.batch.version).catch(() => null);
      if (!missed) return;
      // A change of ours that was made meanwhile has brought newer ones.
      const isNewest = queries.getQueryData(queryKey)?.batch.version === after.batch.version;
      if (isNewest) showSteps(missed.steps);
      // A change of ours that was made meanwhile has put the notice away.
      const words = missed.commands.toReversed().flatMap((command) => command.words);
      setForeign((now) => now && { by, words });
    }),
  );

  // What was sent from a page that is gone, or while another was shown, counts here as well.
  useEffect(
    () => onUnawaited(about, () => void queries.refetchQueries({ queryKey })),
    [about, queries, queryKey],
  );

  function made(answer: Schemas['Changed'], draft: string | undefined) {
    setForeign(null);
    // What was typed is in the plan now, and no longer half typed beside it.
    if (draft) {
      keepDraft(draft, null);
      setTaken((count) => count + 1);
    }
    const before = queries.getQueryData(queryKey);
    if (showNewest(answer.plan)) setMoved(whatMoved(before, answer.plan));
    void queries.invalidateQueries({ queryKey: batchesQuery.queryKey });
    ledTo.current = showSteps(answer.steps);
  }

  /** What became of a wish: null, or the problem it has, which waits beside the plan unless it is of its values. */
  async function heard(sent: Sent, isStep: boolean, draft: string | undefined): Promise<Problem | null> {
    void sent.last.then(
      (answer) => made(answer as Schemas['Changed'], draft),
      () => undefined,
    );
    try {
      await sent.first;
      return null;
    } catch (error) {
      const problem = toProblem(error);
      // The batch was packed, or something of it is gone: the page shows what there is now.
      if (problem.type === 'closed' || problem.type === 'missing') {
        await queries.refetchQueries({ queryKey, exact: true });
      }
      // What it was to be taken back, or made again, is no more what the server knows.
      if (isStep && isCoach) await queries.refetchQueries({ queryKey: stepsKey, exact: true });
      return problem;
    }
  }

  function put(wish: Call, words: string[], id: string, isStep: boolean, draft?: string) {
    const changes = (wish.body as { changes?: Change[] } | undefined)?.changes;
    const noun = changes?.every(({ kind }) => kind === 'weigh' || kind === 'weigh-part')
      ? 'weight'
      : 'change';
    const href = `/batches/${batchId}`;
    const kept = draft === undefined ? undefined : { key: draft, value: null };
    return heard(
      outbox.put({ ...wish, id, about, words, noun, href, draft: kept }, keptBesidePlan),
      isStep,
      draft,
    );
  }

  const path = { batch_id: batchId };
  const command = () => ({
    command_id: crypto.randomUUID(),
    device: deviceName(),
    happened_at: new Date().toISOString(),
  });

  async function change(make: Maker, draft?: string): Promise<Problem | null> {
    const current = queries.getQueryData(queryKey);
    if (!current) return null;
    const waitsBefore = outbox.entries.filter(
      ({ about: other, problem }) => other === about && (!problem || isAway(problem)),
    );
    const changes = make(withWaiting(current, waitsBefore.flatMap(changesOf)));
    if (changes.length === 0) return null;
    // Made on what waits before it, which is made on the plan as it was.
    const bodies = waitsBefore.map(({ body }) => body as { version?: number });
    const version = bodies.findLast((body) => body.version !== undefined)?.version ?? current.batch.version;
    const body = { ...command(), version, changes, confirmed: false };
    const words = changes.map((one) => changeWords(current, one));
    const wish = call('post', '/api/v1/batches/{batch_id}/changes', { params: { path }, body });
    return put(wish, words, body.command_id, false, draft);
  }

  async function takeBack(of: Step): Promise<Problem | null> {
    const body = { ...command(), of: of.id };
    const wish = call('post', '/api/v1/batches/{batch_id}/taken-back', { params: { path }, body });
    return put(wish, [`taken back: ${of.words.join('; ')}`], body.command_id, true);
  }

  /**
   * Take the next step back, or make it again: the one that is shown, unless wishes of ours are still under way. While
   * the server is away the newest wish that waits is let go.
   */
  const step = (which: 'undo' | 'redo') => {
    if (which === 'undo' && waits && newest) {
      void outbox.drop(newest.id);
      return;
    }
    const known = queries.getQueryData(stepsKey);
    const isOurs = known !== undefined && known === ledTo.current;
    const shown = mine.length === 0 ? (isOurs ? known : steps)[which] : null;
    whenSettled(async () => {
      const next = shown ?? queries.getQueryData(stepsKey)?.[which];
      if (next) await tell(takeBack(next));
    });
  };

  async function again(entry: Entry, change: (body: object) => object) {
    const sent = outbox.again(
      entry.id,
      (one) => ({ ...one, body: change(one.body as object) }),
      keptBesidePlan,
    );
    await tell(heard(sent, 'of' in (entry.body as object), entry.draft?.key));
  }

  /** The refusal of a wish that no field shows. */
  const tell = async (wished: Promise<Problem | null>) => {
    const problem = await wished;
    if (problem?.type === 'invalid') toast.error(problem.detail);
  };

  return {
    plan,
    moved,
    /** Who changed the plan last in another window, until the next change here. */
    foreign,
    /** What the coach has to decide about next. */
    waiting,
    /** Everything that is typed and not saved, in words. */
    unsaved: mine.flatMap(({ id, words }) =>
      words.map((one, place) => ({ id: `${id}/${place}`, words: one })),
    ),
    busy: mine.some((entry) => !entry.problem) && !isServerAway(entries),
    /** How many drafts became part of the plan: what is open for one of them begins anew. */
    taken,
    /** Changes that are made here and that the server does not have yet, the oldest first. */
    toHandIn: mine.filter(({ problem }) => !problem || isAway(problem)).flatMap(changesOf),
    /** Whether what was typed as this draft is on its way. */
    isWaiting: (draft: string) => mine.some((entry) => entry.draft?.key === draft),
    /** What undo and redo would do next, and whose it is. */
    steps:
      waits && newest
        ? { undo: { id: newest.id, by: '', own: true, words: newest.words }, redo: null }
        : steps,
    /** Make changes; the caller shows a value that makes no sense at its field, and names the draft it was typed as. */
    change,
    /** Make changes that no field stands for: a refusal is told by the page. */
    act: (make: Maker) => tell(change(make)),
    undo: () => step('undo'),
    redo: () => step('redo'),
    /** Take a change of the history back. */
    takeBack: (of: Step) => tell(takeBack(of)),
    /** Send what waits again: confirmed, or to the newest plan. */
    retry: async () => {
      if (!waiting) return;
      const { problem, entry } = waiting;
      if (isAway(problem)) {
        outbox.kick();
        return;
      }
      if (problem.type === 'stale') await queries.refetchQueries({ queryKey });
      const version = queries.getQueryData(queryKey)?.batch.version;
      const confirmed = problem.type === 'doubtful';
      await again(entry, (body) => ('changes' in body ? { ...body, version, confirmed } : body));
    },
    /** Record what waits with these vessels instead: the weighing without its slip. */
    retryWith: async (vessels: Schemas['VesselView'][]) => {
      if (!waiting) return;
      const { entry } = waiting;
      const changes = changesOf(entry).map((change) =>
        change.kind === 'weigh' ? { ...change, vessels, with_parts: false } : change,
      );
      const body = { ...(entry.body as object), ...command(), changes };
      await outbox.drop(entry.id);
      const mended = { method: entry.method, path: entry.path, params: entry.params, body };
      await tell(put(mended, entry.words, body.command_id, false, entry.draft?.key));
    },
    drop: async () => {
      if (!waiting) return;
      const { problem, entry } = waiting;
      // Nothing that was wished behind a lost answer is sensible without it.
      for (const one of isAway(problem) ? mine : [entry]) await outbox.drop(one.id);
      if (problem.type === 'stale') await queries.refetchQueries({ queryKey });
    },
  };
}

/** Changes of others that are told beside the plan; the history has all. */
const MOST_TOLD = 5;
const NO_STEPS: Schemas['Steps'] = { undo: null, redo: null };

export type PlanDesk = ReturnType<typeof usePlan>;
