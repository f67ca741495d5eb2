import { createContext, type ReactNode, use, useState } from 'react';
import { type Control, get, useFormState } from 'react-hook-form';
import { Refused } from '~/parts/form-fields';
import type { RecipeDraft } from '~/views/recipes/draft';

type Now = {
  /** The part of the recipe that stands in fields, by its key; all others read. */
  opened: string | null;
  /** The part that was left just now, which keeps the cursor. */
  left: string | null;
};

const Opened = createContext<Now & { open: (key: string) => void; close: () => void }>({
  opened: null,
  left: null,
  open: () => undefined,
  close: () => undefined,
});

export type Part = ReturnType<typeof useOpened>;

export const useOpener = () => use(Opened);

/** One part at a time stands in fields. `children` are given how another is opened. */
export function OneOpened({ children }: { children: (open: (key: string) => void) => ReactNode }) {
  const [now, setNow] = useState<Now>({ opened: null, left: null });
  const open = (key: string) => setNow({ opened: key, left: null });
  const close = () => setNow(({ opened }) => ({ opened: null, left: opened }));
  return <Opened value={{ ...now, open, close }}>{children(open)}</Opened>;
}

type At = `components.${number}` | `components.${number}.lines.${number}` | `steps.${number}` | '';

/** Whether something under `at` has to be mended, of the fields that `isOwn` names. */
export function useFaulty(
  control: Control<RecipeDraft>,
  at: At,
  isOwn: (field: string) => boolean = () => true,
) {
  const { errors } = useFormState({ control });
  const refused = use(Refused)?.errors ?? [];
  const path = at ? `/${at.replaceAll('.', '/')}/` : '/';
  return (
    Object.keys((at ? get(errors, at) : errors) ?? {}).some(isOwn) ||
    refused.some(
      ({ pointer }) => pointer.startsWith(path) && isOwn(pointer.slice(path.length).split('/')[0] ?? ''),
    )
  );
}

/** Whether a part stands in fields: it was opened by hand, or something in it has to be mended. */
export function useOpened(
  control: Control<RecipeDraft>,
  key: string,
  at: At,
  isOwn?: (field: string) => boolean,
) {
  const { opened, left, open, close } = use(Opened);
  const isFaulty = useFaulty(control, at, isOwn);
  const isChosen = opened === key;
  return { isOpen: isChosen || isFaulty, isChosen, isLeft: left === key, open: () => open(key), close };
}

/** What a part reads as: pressed, it turns into fields. Whoever left them goes on from here. */
export function Reads({
  part,
  className,
  label,
  children,
}: {
  part: Part;
  className: string;
  /** What is told of it instead of what stands in it. */
  label?: string;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label && `${label}: change`}
      // biome-ignore lint/a11y/noAutofocus: see above
      autoFocus={part.isLeft}
      onClick={part.open}
      className={className}
    >
      {children}
      <span className="sr-only">: change</span>
    </button>
  );
}

/** The fields of a part. Escape leaves them, with what was typed. */
export function InFields({
  part,
  className,
  children,
}: {
  part: Part;
  className: string;
  children: ReactNode;
}) {
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it listens to the fields inside
    <div
      onFocusCapture={part.isChosen ? undefined : part.open}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) part.close();
      }}
      className={className}
    >
      {children}
    </div>
  );
}
