import { useEffect } from 'react';

/**
 * Ctrl + Z and Ctrl + Shift + Z. Inside a field the browser's own undo of typing comes first, but not where what was
 * typed is saved already: it would bring the old text back, which leaving the field would then save again.
 */
export function useUndoKeys(undo: () => void, redo?: () => void) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      const { target } = event;
      if (target instanceof HTMLTextAreaElement) return;
      if (target instanceof HTMLInputElement && target.dataset.saved === undefined) return;
      event.preventDefault();
      if (event.shiftKey) redo?.();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);
}
