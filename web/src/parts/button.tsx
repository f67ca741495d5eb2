import type { ComponentProps } from 'react';

type Look = 'main' | 'plain' | 'quiet' | 'alert';

const LOOKS: Record<Look, string> = {
  main: 'bg-bar text-on-bar border-bar hover:opacity-90 font-semibold',
  plain: 'bg-sheet text-ink border-steel hover:border-edge font-medium',
  quiet: 'bg-transparent text-ink border-transparent hover:bg-bench font-medium',
  alert: 'bg-sheet text-alert border-alert font-medium',
};

const SHAPE =
  'inline-flex min-h-11 items-center justify-center gap-2 rounded-lg border px-4 whitespace-nowrap disabled:opacity-45 aria-disabled:opacity-45';

export const buttonClass = (look: Look = 'plain') => `${SHAPE} ${LOOKS[look]}`;

export function Button({
  look = 'plain',
  className = '',
  ...rest
}: ComponentProps<'button'> & { look?: Look }) {
  return <button type="button" className={`${buttonClass(look)} ${className}`} {...rest} />;
}
