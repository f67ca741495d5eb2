import { type ReactNode, useEffect } from 'react';
import { Button } from '~/parts/button';

/** The side panel of the plan. */
export function Panel({
  title,
  detail,
  onClose,
  children,
}: {
  title: string;
  detail?: string;
  onClose?: () => void;
  children: ReactNode;
}) {
  // Closed, it gives the focus back to what opened it, if it had it.
  useEffect(() => {
    const opener = document.activeElement;
    return () => {
      if (document.activeElement !== document.body) return;
      if (opener instanceof HTMLElement && opener.isConnected) opener.focus();
    };
  }, []);
  return (
    <section aria-label={title} className="space-y-4 rounded-xl border border-steel bg-sheet p-4">
      <header className="flex items-start justify-between gap-2">
        <div>
          <h2 className="text-xl">{title}</h2>
          {detail ? <p className="text-sm text-muted">{detail}</p> : null}
        </div>
        {onClose ? (
          <Button look="quiet" className="-mt-2 -mr-2 !px-3" onClick={onClose} aria-label={`Close ${title}`}>
            ×
          </Button>
        ) : null}
      </header>
      {children}
    </section>
  );
}
