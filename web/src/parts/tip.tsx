import { Tooltip } from 'radix-ui';
import type { ReactElement } from 'react';

const PATIENCE_MS = 300;

/** What more there is to say of a button, for whoever stays on it with the pointer or the keyboard. */
export function Tip({ words, children }: { words: string; children: ReactElement }) {
  if (!words) return children;
  return (
    <Tooltip.Provider delayDuration={PATIENCE_MS}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={6}
            collisionPadding={8}
            className="z-50 max-w-[min(420px,92vw)] rounded-lg bg-ink px-3 py-2 text-sm text-sheet shadow-lg"
          >
            {words}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
