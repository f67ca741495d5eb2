import { useCallback, useSyncExternalStore } from 'react';

const listeners = new Set<() => void>();

function read(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    // Storage that is switched off: everything is as nobody has set it.
    return null;
  }
}

/** A setting of this device, kept in its browser; `usual` where nobody has set it. */
export function useStored<V extends string>(key: string, usual: V): [V, (value: V) => void] {
  const value = useSyncExternalStore(
    (told) => {
      listeners.add(told);
      return () => listeners.delete(told);
    },
    () => (read(key) as V | null) ?? usual,
  );
  const set = useCallback(
    (next: V) => {
      try {
        localStorage.setItem(key, next);
      } catch {
        // Without storage it lasts as long as nobody needs it.
      }
      for (const told of listeners) told();
    },
    [key],
  );
  return [value, set];
}
