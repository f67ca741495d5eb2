import { type Dispatch, type SetStateAction, useEffect, useState } from 'react';

const PREFIX = 'yantai/draft/';
const OWNER = 'yantai/drafts-of';

/** What was typed under this name and not sent yet; null where nothing was, or it cannot be read any more. */
export function readDraft<T>(key: string): T | null {
  try {
    const kept = sessionStorage.getItem(PREFIX + key);
    return kept === null ? null : (JSON.parse(kept) as T);
  } catch {
    return null;
  }
}

export function keepDraft(key: string, value: unknown) {
  try {
    if (value === null) sessionStorage.removeItem(PREFIX + key);
    else sessionStorage.setItem(PREFIX + key, JSON.stringify(value));
  } catch {
    // Storage that is full or switched off: what is typed lives in the page alone.
  }
}

/** Nothing of one person's typing is left to the next who signs in. */
export function forgetDrafts() {
  for (const key of Object.keys(sessionStorage)) {
    if (key.startsWith(PREFIX)) sessionStorage.removeItem(key);
  }
}

/** Whose drafts these are from here on; those of somebody else are dropped. */
export function keepDraftsOf(email: string) {
  if (sessionStorage.getItem(OWNER) === email) return;
  forgetDrafts();
  sessionStorage.setItem(OWNER, email);
}

/** What was kept by a version that knew fewer fields, with those of `blank` for the rest. */
export const completed = <T>(kept: T, blank: T): T =>
  isFields(kept) && isFields(blank) ? { ...blank, ...kept } : kept;

const isFields = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * A state that survives a reload and leaving the page, under a name of its own. As long as it is `initial` nothing is
 * kept; `forget` drops what was typed.
 */
export function useDraft<T>(key: string, initial: T | (() => T)) {
  const [start] = useState(initial);
  const [value, setValue] = useState<T>(() => {
    const kept = readDraft<T>(key);
    return kept === null ? start : completed(kept, start);
  });
  useEffect(() => keepDraft(key, value === start ? null : value), [key, value, start]);
  const forget = () => {
    setValue(start);
    keepDraft(key, null);
  };
  return [value, setValue as Dispatch<SetStateAction<T>>, forget] as const;
}
