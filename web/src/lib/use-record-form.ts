import { type QueryKey, useMutation, useQueryClient } from '@tanstack/react-query';
import { useBlocker, useLocation } from '@tanstack/react-router';
import { type FormEvent, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { toProblem } from '~/lib/api';
import { faultFinder } from '~/lib/faults';
import { keepDraft, readDraft } from '~/lib/use-draft';

/** Ctrl+S saves, wherever the cursor stands. */
function useSaveKey(save: () => void) {
  const latest = useRef(save);
  latest.current = save;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 's') return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

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
 * archiving it, and a question before something unsaved is left.
 */
export function useRecordForm<
  Draft extends { name: string; version: number | null },
  Body,
  View extends { name: string },
>({ initial, toDraft, toInput, onSaved, onArchived, listKey, ...calls }: Options<Draft, Body, View>) {
  const key = useLocation().pathname;
  const [draft, setDraft] = useState<Draft>(() => readDraft<Draft>(key) ?? initial);
  const [before, setBefore] = useState<Draft[]>([]);
  const [saved, setSaved] = useState(initial);
  const queries = useQueryClient();
  const dirty = draft !== saved;
  useBlocker({
    shouldBlockFn: () =>
      dirty && !window.confirm('Leave without saving? What you typed waits here until you come back.'),
    enableBeforeUnload: dirty,
  });
  useEffect(() => keepDraft(key, dirty ? draft : null), [key, dirty, draft]);
  const [found, setFound] = useState(dirty);
  useEffect(() => {
    if (!found) return;
    setFound(false);
    toast('What you typed here before is back. It is not saved yet.', {
      duration: 10_000,
      action: { label: 'Start over', onClick: () => setDraft(saved) },
    });
  }, [found, saved]);
  const { body, faults } = useMemo(() => toInput(draft), [draft, toInput]);

  const save = useMutation({
    mutationFn: (sent: Draft) => calls.save(toInput(sent).body),
    onSuccess: (view, sent) => {
      const fresh = toDraft(view);
      keepDraft(key, null);
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
      toast(`${draft.name} is archived.`, {
        action: { label: 'Undo', onClick: () => archive.mutate(false) },
      });
      onArchived();
    },
    onError: (error) => toast.error(toProblem(error).detail),
  });

  const send = () => {
    if (faults.size === 0 && !save.isPending) save.mutate(draft);
  };
  useSaveKey(send);
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
      send();
    },
    archive: () => archive.mutate(true),
  };
}
