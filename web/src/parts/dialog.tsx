import { AlertDialog, Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

type Props = {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  /** Read to who does not see the title. */
  hideTitle?: boolean;
  detail?: ReactNode;
  /** It asks something: a click beside it does not answer. */
  asks?: boolean;
  /** For a form of two columns, or for what has the width of a page. */
  wide?: boolean | 'page';
  children: ReactNode;
};

/** Over everything, also over other dialogs: signing in again does not wait for what is open. */
const LAYERS = { usual: 'z-40', top: 'z-50' };

/** What stands over the page until it is answered or closed. */
export function Overlaid({ layer = 'usual', ...props }: Props & { layer?: keyof typeof LAYERS }) {
  const { open, onOpenChange, title, hideTitle, detail, asks, wide, children } = props;
  const Kind = asks ? AlertDialog : Dialog;
  const described = detail === undefined ? { 'aria-describedby': undefined } : {};
  return (
    <Kind.Root open={open} onOpenChange={onOpenChange}>
      <Kind.Portal>
        <Kind.Overlay className={`fixed inset-0 bg-bar/50 ${LAYERS[layer]}`} />
        <Kind.Content
          {...described}
          // A form in here is nobody's but its own: React would send that of the page around it too.
          onSubmit={(event) => event.stopPropagation()}
          className={`fixed top-20 left-1/2 max-h-[85vh] max-w-[94vw] -translate-x-1/2 overflow-y-auto rounded-xl border border-edge bg-sheet shadow-xl ${
            wide === 'page' ? 'w-[1040px]' : wide ? 'w-[560px]' : 'w-[500px]'
          } ${hideTitle ? '' : 'p-5'} ${LAYERS[layer]}`}
        >
          <Kind.Title className={hideTitle ? 'sr-only' : 'mb-3 text-xl'}>{title}</Kind.Title>
          {detail === undefined ? null : (
            <Kind.Description className="mb-4 text-sm">{detail}</Kind.Description>
          )}
          {children}
        </Kind.Content>
      </Kind.Portal>
    </Kind.Root>
  );
}

/** The button that leaves things as they are. */
export function Close({ asks = false, children }: { asks?: boolean; children: ReactNode }) {
  return asks ? (
    <AlertDialog.Cancel asChild>{children}</AlertDialog.Cancel>
  ) : (
    <Dialog.Close asChild>{children}</Dialog.Close>
  );
}
