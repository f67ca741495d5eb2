import { type QueryKey, useMutation, useQueryClient } from '@tanstack/react-query';
import { useBlocker, useLocation } from '@tanstack/react-router';
import { type FormEvent, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { FieldValues } from 'react-hook-form';
import { toast } from 'sonner';
import { toProblem } from '~/api/client';
import { keepKeys, type Read } from '~/lib/codecs';
import { useShortcut } from '~/lib/keys';
import { completed, keepDraft, readDraft } from '~/lib/use-draft';
import { useIsHere } from '~/lib/use-is-here';
import { useTypedForm } from '~/lib/use-typed-form';
import { type Call, type Entry, isAway, isServerAway } from '~/offline/outbox';
import { useOutbox } from '~/offline/use-outbox';
import { type Calling, getOutbox, wish } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';

const SAVE = { caption: 'In this form', key: 's', ctrl: true, words: 'save', inFields: 'always' } as const;
const MOST_STEPS = 200;

const isRefused = (entry: Entry) => entry.problem !== undefined && !isAway(entry.problem);
const isSame = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

type Options<Draft, Body, View> = {
  initial: Draft;
  toDraft: (view: View) => Draft;
  toInput: (draft: Draft) => Read<Body>;
  /** What the record is called where it is told what waits. */
  what: string;
  /** Why it cannot be saved yet though all of it can be read, in words. */
  notYet?: (draft: Draft) => string | null;
  save: (body: Body) => Calling<View>;
  archive: (archived: boolean) => Call;
  /** Keep what the server answered, and go on to it when it is new. */
  onSaved: (view: View) => void;
  nameOf: (view: View) => string;
  /** Go back to the list. */
  onArchived: () => void;
  listKey: QueryKey;
};

/**
 * A form for one named record: the draft as typed, saving with the version that was read, archiving it, and a question
 * before something unsaved is left.
 */
export function useRecordForm<
  Draft extends FieldValues & { name: string; version: number | null },
  Body,
  View,
>({
  initial,
  toDraft,
  toInput,
  onSaved,
  onArchived,
  listKey,
  what,
  nameOf,
  notYet,
  ...calls
}: Options<Draft, Body, View>) {
  const key = useLocation().pathname;
  const entries = useOutbox();
  const waiting = entries.find((entry) => entry.draft?.key === key);
  const [left] = useState(() => {
    const kept = readDraft<Draft>(key) ?? (waiting?.draft?.value as Draft | undefined) ?? null;
    return kept && readable(completed(kept, initial), toInput);
  });
  const [before, setBefore] = useState<Draft[]>([]);
  const remember = (step: Draft) => setBefore((steps) => [...steps.slice(1 - MOST_STEPS), step]);
  const form = useTypedForm({ initial, toInput, onStep: remember });
  const { control, change, draft, isDirty: dirty, isUnreadable: unreadable, reset } = form;
  const put = (values: Draft) => reset(values, { keepDefaultValues: true });
  useLayoutEffect(() => {
    if (left) reset(left, { keepDefaultValues: true });
  }, [left, reset]);
  const queries = useQueryClient();
  const isHere = useIsHere();

  /** What is on its way to the server; it waits there, and not in this form. */
  const [sent, setSent] = useState<Draft | null>(waiting ? left : null);
  const isUnsaved = () => dirty && !isSame(form.getValues(), sent);
  useBlocker({
    shouldBlockFn: () =>
      isUnsaved() && !window.confirm('Leave without saving? What you typed waits here until you come back.'),
    enableBeforeUnload: isUnsaved,
  });
  useEffect(() => keepDraft(key, dirty ? draft : null), [key, dirty, draft]);
  const [found, setFound] = useState(left !== null && !waiting);
  useEffect(() => {
    if (!found) return;
    setFound(false);
    toast('What you typed here before is back. It is not saved yet.', {
      duration: 10_000,
      action: { label: 'Start over', onClick: () => reset() },
    });
  }, [found, reset]);
  const { body: now, faults } = useMemo(() => toInput(draft), [draft, toInput]);
  // While something cannot be read, what follows from the form stays what it was.
  const [body, setBody] = useState(() => now ?? toInput(initial).body);
  if (now !== undefined && faults.size === 0 && now !== body) setBody(now);

  const about = (words: string, kept?: Draft) => ({
    about: key,
    words: [`${what} ${draft.name}${words}`],
    href: key,
    draft: kept && { key, value: kept },
  });
  const save = useMutation({
    mutationFn: async ({ sent, entry }: { sent: Draft; entry?: Entry }) => {
      setSent(sent);
      if (entry) return (await getOutbox().awaited(entry.id)) as View;
      // What was refused before is mended by this.
      if (waiting) await getOutbox().drop(waiting.id);
      return (await wish(calls.save(toInput(sent).body), about('', sent)).last) as View;
    },
    onSuccess: (view, { sent }) => {
      const typed = form.getValues();
      // The parts of the form stay what they are on the screen, with the cursor in them.
      const fresh = keepKeys(toDraft(view), sent);
      keepDraft(key, null);
      const isMore = !isSame(typed, sent);
      const more = { ...structuredClone(typed), version: fresh.version };
      reset(fresh);
      // What was typed while the answer was on its way stays typed.
      if (isMore) put(more);
      void queries.invalidateQueries({ queryKey: listKey, exact: true });
      toast.success(`${nameOf(view)} is saved.`);
      if (isHere.current) onSaved(view);
      else void queries.invalidateQueries();
    },
    onSettled: () => setSent(null),
  });
  // What was sent from here before this page was loaded anew is waited for as if it had just been sent.
  const unheard = useRef(left && waiting && !isRefused(waiting) ? { sent: left, entry: waiting } : null);
  const { mutate } = save;
  useEffect(() => {
    if (unheard.current) mutate(unheard.current);
    unheard.current = null;
  }, [mutate]);
  const archive = useMutation({
    mutationFn: (archived: boolean) =>
      wish(calls.archive(archived), about(archived ? ': archived' : ': brought back')).last,
    onSuccess: (_, archived) => {
      void queries.invalidateQueries({ queryKey: listKey });
      if (!archived) return;
      toast(`${draft.name} is archived.`, {
        action: { label: 'Undo', onClick: () => archive.mutate(false) },
      });
      if (isHere.current) onArchived();
    },
    onError: showProblem,
  });

  const send = form.handleSubmit((values) => {
    const why = notYet?.(values);
    if (why) toast.error(why);
    else if (!save.isPending) save.mutate({ sent: structuredClone(values) });
  });
  useShortcut(SAVE, () => void send());
  const refused = waiting && isRefused(waiting) ? waiting.problem : undefined;
  return {
    control,
    /** The form as it is typed. */
    draft,
    body,
    dirty,
    /** What the server refused last. */
    problem: save.isError ? toProblem(save.error) : (refused ?? null),
    unreadable,
    saving: save.isPending,
    /** The server is away: what was saved here is sent as soon as it answers. */
    waits: save.isPending && isServerAway(entries),
    change,
    /** Change several parts at once. */
    take: (part: Partial<Draft>) => {
      remember(structuredClone(form.getValues()));
      put({ ...form.getValues(), ...part });
    },
    canUndo: before.length > 0,
    undo: () => {
      const step = before.at(-1);
      if (!step) return;
      setBefore(before.slice(0, -1));
      // The version is the server's, not typed, so it does not go back.
      put({ ...step, version: form.getValues().version });
    },
    submit: (event: FormEvent) => void send(event),
    archive: () => archive.mutate(true),
  };
}

/** A draft that this version can read; one that an older one kept in another shape is left alone. */
function readable<Draft>(draft: Draft, toInput: (draft: Draft) => unknown): Draft | null {
  try {
    toInput(draft);
    return draft;
  } catch {
    return null;
  }
}
