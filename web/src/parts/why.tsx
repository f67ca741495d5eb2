import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** A figure that opens to where it comes from. */
export function Why({ label, figure, children }: { label: string; figure: ReactNode; children: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label}: where this comes from`}
        className="min-h-6 cursor-help text-inherit underline decoration-edge decoration-dotted underline-offset-4 hover:decoration-ink"
      >
        {figure}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          tabIndex={0}
          sideOffset={6}
          collisionPadding={12}
          aria-label={`Where ${label} comes from`}
          className="z-30 max-h-[min(70vh,var(--radix-popover-content-available-height))] w-[460px] max-w-[92vw] overflow-y-auto rounded-xl border border-edge bg-sheet p-4 text-sm shadow-lg"
        >
          <h3 className="mb-2 text-base">Where this comes from</h3>
          {children}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
