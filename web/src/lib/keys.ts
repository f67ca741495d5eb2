import { useEffect, useRef, useSyncExternalStore } from 'react';

/** A key and what it does, in words; the help lists it as long as what it works on is on the page. */
export type Key = [keys: string, words: string];

type Group = { caption: string; keys: Key[] };

const groups = new Map<symbol, Group>();
let listed: Group[] = [];
const listeners = new Set<() => void>();

function relist() {
  const found = new Map<string, Key[]>();
  for (const { caption, keys } of groups.values()) {
    found.set(caption, [...(found.get(caption) ?? []), ...keys]);
  }
  // What is everywhere comes last: first what this view has of its own.
  listed = [...found]
    .map(([caption, keys]) => ({ caption, keys }))
    .sort((one, other) => Number(one.caption === EVERYWHERE) - Number(other.caption === EVERYWHERE));
  for (const told of listeners) told();
}

export const EVERYWHERE = 'Everywhere';

function register(group: Group) {
  const id = Symbol(group.caption);
  groups.set(id, group);
  relist();
  return () => {
    groups.delete(id);
    relist();
  };
}

/** The keys that work now, by where they work. */
export const useListedKeys = () =>
  useSyncExternalStore(
    (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
    () => listed,
  );

/** List keys that a part of the page handles itself. `keys` is a constant. */
export function useListed(caption: string, keys: Key[]) {
  useEffect(() => register({ caption, keys }), [caption, keys]);
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/**
 * Inside a field the browser's own undo of typing comes first, but not where what was typed is saved already: it
 * would bring the old text back, which leaving the field would then save again.
 */
const isUnsavedTyping = (target: EventTarget | null) =>
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement && target.dataset.saved === undefined);

type Shortcut = {
  caption: string;
  /** As `KeyboardEvent.key`, in small letters. */
  key: string;
  words: string;
  /** With Ctrl, or the command key. */
  ctrl?: boolean;
  shift?: boolean;
  /** Where a cursor stands in a field: not at all, only where its text is saved, or everywhere. */
  inFields?: 'never' | 'saved' | 'always';
};

const NAMES: Record<string, string> = { z: 'Z', s: 'S' };

const shown = ({ key, ctrl, shift }: Shortcut) =>
  [ctrl ? 'Ctrl' : '', shift ? 'Shift' : '', NAMES[key] ?? key].filter(Boolean).join(' + ');

function matches(wanted: Shortcut, event: KeyboardEvent) {
  if (event.defaultPrevented || event.altKey || event.key.toLowerCase() !== wanted.key) return false;
  if ((event.ctrlKey || event.metaKey) !== (wanted.ctrl ?? false)) return false;
  // A sign such as ? needs shift on most keyboards and is itself; letters tell the two apart.
  if (/^[a-z]$/.test(wanted.key) && event.shiftKey !== (wanted.shift ?? false)) return false;
  if (wanted.inFields === 'always') return true;
  return wanted.inFields === 'saved' ? !isUnsavedTyping(event.target) : !isTyping(event.target);
}

/** A key of the whole page, listed in the help while it works. `wanted` is a constant. */
export function useShortcut(wanted: Shortcut, act: () => void) {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!matches(wanted, event)) return;
      event.preventDefault();
      latest.current();
    };
    window.addEventListener('keydown', onKey);
    const unlist = register({ caption: wanted.caption, keys: [[shown(wanted), wanted.words]] });
    return () => {
      window.removeEventListener('keydown', onKey);
      unlist();
    };
  }, [wanted]);
}
