import { CatchBoundary } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';

/** A part of a page whose fault takes nothing else of the page with it. */
export function Guard({ what, at = what, children }: { what: string; at?: string; children: ReactNode }) {
  return (
    <CatchBoundary
      getResetKey={() => at}
      errorComponent={({ reset }) => (
        <Notice tone="alert" title={`${what} cannot be shown`}>
          <p className="mb-2">A fault of ours. The rest of the page works, and nothing is lost.</p>
          <Button onClick={reset}>Show it again</Button>
        </Notice>
      )}
    >
      {children}
    </CatchBoundary>
  );
}
