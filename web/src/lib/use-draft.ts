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

/**
 * A state that survives a reload and leaving the page, under a name of its own. As long as it is `initial` nothing is
 * kept; `forget` drops what was typed.
 */
export function useDraft<T>(key: string, initial: T | (() => T)) {
  const [start] = useState(initial);
  const [value, setValue] = useState<T>(() => readDraft<T>(key) ?? start);
  useEffect(() => keepDraft(key, value === start ? null : value), [key, value, start]);
  const forget = () => {
    setValue(start);
    keepDraft(key, null);
  };
  return [value, setValue as Dispatch<SetStateAction<T>>, forget] as const;
}
