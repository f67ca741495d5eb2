import { type ComponentProps, type ReactNode, useId } from 'react';

export const BOX =
  'w-full min-h-11 rounded-lg border bg-sheet px-3 text-ink placeholder:text-muted disabled:bg-bench aria-invalid:border-alert';

export type Shared = {
  label: string;
  hint?: ReactNode;
  fault?: string | null | undefined;
  hideLabel?: boolean;
};

/** The label over a field, and below it its hint and what is wrong. */
export function Frame({
  id,
  label,
  hint,
  fault,
  hideLabel,
  children,
}: Shared & { id: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'mb-1 block text-sm font-medium text-muted'}>
        {label}
      </label>
      {children}
      {hint ? (
        <p id={`${id}-hint`} className="mt-1 text-sm text-muted">
          {hint}
        </p>
      ) : null}
      {fault ? (
        <p id={`${id}-fault`} role="alert" className="mt-1 text-sm font-medium text-alert">
          {fault}
        </p>
      ) : null}
    </div>
  );
}

export function describedBy(id: string, { hint, fault }: Pick<Shared, 'hint' | 'fault'>) {
  const ids = [hint ? `${id}-hint` : '', fault ? `${id}-fault` : ''].filter(Boolean).join(' ');
  return ids || undefined;
}

/** A labelled text input; `unit` stands behind figures. */
export function Field({
  label,
  hint,
  fault,
  hideLabel,
  unit,
  className = '',
  ...rest
}: Shared & { unit?: string } & ComponentProps<'input'>) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} fault={fault} hideLabel={hideLabel ?? false}>
      <span className="relative block">
        <input
          id={id}
          aria-invalid={fault ? true : undefined}
          aria-describedby={describedBy(id, { hint, fault })}
          autoComplete="off"
          className={`${BOX} border-edge ${unit ? 'figures pr-11 text-right' : ''} ${className}`}
          {...rest}
        />
        {unit ? (
          <span
            aria-hidden
            className="pointer-events-none absolute inset-y-0 right-3 flex items-center text-sm text-muted"
          >
            {unit}
          </span>
        ) : null}
      </span>
    </Frame>
  );
}

/** A labelled text of several lines. */
export function Area({ label, hint, fault, hideLabel, ...rest }: Shared & ComponentProps<'textarea'>) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} fault={fault} hideLabel={hideLabel ?? false}>
      <textarea
        id={id}
        rows={3}
        aria-invalid={fault ? true : undefined}
        aria-describedby={describedBy(id, { hint, fault })}
        className={`${BOX} border-edge py-2`}
        {...rest}
      />
    </Frame>
  );
}

/** A box to tick, with its words beside it. */
export function Tick({
  label,
  checked,
  onChange,
}: {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex min-h-9 items-center gap-2">
      <input
        type="checkbox"
        className="size-5 accent-ink"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  );
}
