/** @jsxImportSource preact */
import type { ComponentChildren } from 'preact';
import { useId, useState } from 'preact/hooks';
import { type Avoid, readFigure } from '~/client-link/form';

const BOX = 'mt-1 block w-full min-h-12 rounded-lg border border-edge bg-sheet px-3 py-2';

type Shared = { label: string; hint?: string; fault?: string | undefined };

function Frame({ id, label, hint, fault, children }: Shared & { id: string; children: ComponentChildren }) {
  return (
    <div class="mt-4">
      <label class="block font-bold" for={id}>
        {label}
      </label>
      {hint ? (
        <p class="text-sm text-muted" id={`${id}-hint`}>
          {hint}
        </p>
      ) : null}
      {children}
      {fault ? (
        <p class="mt-1 font-bold text-alert" role="alert">
          {fault}
        </p>
      ) : null}
    </div>
  );
}

export function TextBox({
  value,
  onValue,
  lines = 1,
  type = 'text',
  longest = 1000,
  ...shared
}: Shared & {
  value: string;
  onValue: (text: string) => void;
  lines?: number;
  type?: 'text' | 'email';
  longest?: number;
}) {
  const id = useId();
  const common = {
    id,
    class: BOX,
    value,
    maxLength: longest,
    'aria-invalid': shared.fault ? true : undefined,
    'aria-describedby': shared.hint ? `${id}-hint` : undefined,
  };
  return (
    <Frame id={id} {...shared}>
      {lines > 1 ? (
        <textarea {...common} rows={lines} onInput={(event) => onValue(event.currentTarget.value)} />
      ) : (
        <input {...common} type={type} onInput={(event) => onValue(event.currentTarget.value)} />
      )}
    </Frame>
  );
}

export function DateBox({
  value,
  onValue,
  ...shared
}: Shared & { value: string | null; onValue: (day: string | null) => void }) {
  const id = useId();
  return (
    <Frame id={id} {...shared}>
      <input
        id={id}
        class={BOX}
        type="date"
        value={value ?? ''}
        aria-invalid={shared.fault ? true : undefined}
        onInput={(event) => onValue(event.currentTarget.value || null)}
      />
    </Frame>
  );
}

/** A figure with its unit: what is no number stays as it was typed, and is told. */
export function FigureBox({
  value,
  unit,
  onValue,
  ...shared
}: Shared & { value: number | null; unit: string; onValue: (value: number | null) => void }) {
  const id = useId();
  const [text, setText] = useState(value === null ? '' : String(value));
  const isWrong = readFigure(text) === undefined;
  return (
    <Frame id={id} {...shared} fault={isWrong ? 'Write a number here, as 172.' : shared.fault}>
      <span class="flex items-center gap-2">
        <input
          id={id}
          class={`${BOX} figures`}
          inputMode="decimal"
          value={text}
          aria-invalid={isWrong || shared.fault ? true : undefined}
          onInput={(event) => {
            setText(event.currentTarget.value);
            const read = readFigure(event.currentTarget.value);
            if (read !== undefined) onValue(read);
          }}
        />
        <span class="w-10">{unit}</span>
      </span>
    </Frame>
  );
}

/** Things to tick, as many as are true. */
export function Ticks<V extends string | number>({
  label,
  hint,
  fault,
  options,
  value,
  onValue,
}: Shared & {
  options: readonly { value: V; label: string }[];
  value: readonly V[];
  onValue: (value: V[]) => void;
}) {
  return (
    <fieldset class="mt-4">
      <legend class="font-bold">{label}</legend>
      {hint ? <p class="text-sm text-muted">{hint}</p> : null}
      <div class="mt-1 flex flex-wrap gap-2">
        {options.map((one) => (
          <label
            key={one.value}
            class="inline-flex min-h-12 items-center gap-2 rounded-lg border border-edge bg-sheet px-3"
          >
            <input
              type="checkbox"
              class="size-5 accent-ink"
              checked={value.includes(one.value)}
              onChange={(event) =>
                onValue(
                  event.currentTarget.checked
                    ? [...value, one.value]
                    : value.filter((other) => other !== one.value),
                )
              }
            />
            {one.label}
          </label>
        ))}
      </div>
      {fault ? (
        <p class="mt-1 font-bold text-alert" role="alert">
          {fault}
        </p>
      ) : null}
    </fieldset>
  );
}

/** One of several, or none. */
export function OneOf<V extends string>({
  options,
  value,
  onValue,
  ...shared
}: Shared & { options: readonly V[]; value: V | null; onValue: (value: V | null) => void }) {
  const id = useId();
  return (
    <Frame id={id} {...shared}>
      <select
        id={id}
        class={BOX}
        value={value ?? ''}
        onChange={(event) => onValue((event.currentTarget.value || null) as V | null)}
      >
        <option value="">–</option>
        {options.map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    </Frame>
  );
}

const WHY: Avoid['why'][] = [
  'allergy',
  'intolerance',
  'belief or conviction',
  'on a doctor’s advice',
  'another reason',
];

/** What must not be eaten, each with why; one empty row waits for the next. */
export function AvoidRows({
  value,
  fault,
  onValue,
}: {
  value: Avoid[];
  fault?: string | undefined;
  onValue: (value: Avoid[]) => void;
}) {
  const rows = [...value, { what: '', why: 'another reason' as const }];
  const put = (at: number, row: Avoid) =>
    onValue(rows.map((one, place) => (place === at ? row : one)).filter((one) => one.what !== ''));
  return (
    <fieldset class="mt-4">
      <legend class="font-bold">What else you must not eat, and why</legend>
      {rows.map((row, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place, so that typing keeps the focus
        <div key={at} class="mt-2 grid grid-cols-2 gap-2">
          <input
            class={BOX}
            aria-label={`What you must not eat, ${at + 1}`}
            maxLength={100}
            value={row.what}
            onInput={(event) => put(at, { ...row, what: event.currentTarget.value })}
          />
          <select
            class={BOX}
            aria-label={`Why, ${at + 1}`}
            value={row.why ?? 'another reason'}
            disabled={row.what === ''}
            onChange={(event) =>
              put(at, { ...row, why: event.currentTarget.value as NonNullable<Avoid['why']> })
            }
          >
            {WHY.map((why) => (
              <option key={why} value={why}>
                {why}
              </option>
            ))}
          </select>
        </div>
      ))}
      {fault ? (
        <p class="mt-1 font-bold text-alert" role="alert">
          {fault}
        </p>
      ) : null}
    </fieldset>
  );
}
