import { type QueryKey, useMutation, useQueryClient } from '@tanstack/react-query';
import { useBlocker } from '@tanstack/react-router';
import { type FormEvent, useMemo, useState } from 'react';
import { toast } from 'sonner';
import { toProblem } from '~/lib/api';
import { faultFinder } from '~/lib/faults';

const MOST_STEPS = 200;

type Options<Draft, Body, View> = {
  initial: Draft;
  toDraft: (view: View) => Draft;
  toInput: (draft: Draft) => { body: Body; faults: Map<string, string> };
  save: (body: Body) => Promise<View>;
  archive: (archived: boolean) => Promise<unknown>;
  /** Keep what the server answered, and go on to it when it is new. */
  onSaved: (view: View) => void;
  /** Go back to the list. */
  onArchived: () => void;
  listKey: QueryKey;
};

/**
 * A form for one named record: the draft as typed, its faults, saving with the version that was read,
 * taking it off the lists, and a question before something unsaved is left.
 */
export function useRecordForm<
  Draft extends { name: string; version: number | null },
  Body,
  View extends { name: string },
>({ initial, toDraft, toInput, onSaved, onArchived, listKey, ...calls }: Options<Draft, Body, View>) {
  const [draft, setDraft] = useState(initial);
  const [before, setBefore] = useState<Draft[]>([]);
  const [saved, setSaved] = useState(initial);
  const queries = useQueryClient();
  const dirty = draft !== saved;
  useBlocker({
    shouldBlockFn: () => dirty && !window.confirm('Leave without saving what you changed?'),
    enableBeforeUnload: dirty,
  });
  const { body, faults } = useMemo(() => toInput(draft), [draft, toInput]);

  const save = useMutation({
    mutationFn: (sent: Draft) => calls.save(toInput(sent).body),
    onSuccess: (view, sent) => {
      const fresh = toDraft(view);
      setSaved(fresh);
      // What was typed while the answer was on its way stays typed.
      setDraft((now) => (now === sent ? fresh : { ...now, version: fresh.version }));
      void queries.invalidateQueries({ queryKey: listKey, exact: true });
      toast.success(`${view.name} is saved.`);
      onSaved(view);
    },
  });
  const archive = useMutation({
    mutationFn: calls.archive,
    onSuccess: (_, archived) => {
      void queries.invalidateQueries({ queryKey: listKey });
      if (!archived) return;
      toast(`${draft.name} is off your lists.`, {
        action: { label: 'Undo', onClick: () => archive.mutate(false) },
      });
      onArchived();
    },
    onError: (error) => toast.error(toProblem(error).detail),
  });

  const problem = save.isError ? toProblem(save.error) : null;
  return {
    draft,
    body,
    dirty,
    problem,
    fault: faultFinder(faults, problem),
    unreadable: faults.size > 0,
    saving: save.isPending,
    /** Change some of the draft: by its parts, or from what it is by then. */
    change: (part: Partial<Draft> | ((now: Draft) => Partial<Draft>)) => {
      setBefore((steps) => [...steps.slice(1 - MOST_STEPS), draft]);
      setDraft((now) => ({ ...now, ...(typeof part === 'function' ? part(now) : part) }));
    },
    canUndo: before.length > 0,
    undo: () => {
      const last = before.at(-1);
      if (!last) return;
      setBefore(before.slice(0, -1));
      // The version is the server's, not typed, so it does not go back.
      setDraft((now) => ({ ...last, version: now.version }));
    },
    submit: (event: FormEvent) => {
      event.preventDefault();
      if (faults.size === 0) save.mutate(draft);
    },
    takeOff: () => archive.mutate(true),
  };
}
