import { Select, ToggleGroup } from 'radix-ui';
import { useId } from 'react';
import { BOX, describedBy, Frame, type Shared } from '~/parts/field';

type Options<V extends string> = {
  options: readonly { value: V; label: string }[];
  value: V;
  onValue: (value: V) => void;
};

/** The options that these words stand for. */
export const optionsOf = <V extends string>(words: Record<V, string>) =>
  Object.entries<string>(words).map(([value, label]) => ({ value: value as V, label }));

/** Radix keeps the empty value for "nothing chosen"; here it is a choice with words of its own. */
const NONE = '(none)';

/** One of several, from a list that opens. */
export function Choice<V extends string>({
  label,
  hint,
  fault,
  hideLabel,
  options,
  value,
  onValue,
  disabled = false,
}: Shared & Options<V> & { disabled?: boolean }) {
  const id = useId();
  return (
    <Frame id={id} label={label} hint={hint} fault={fault} hideLabel={hideLabel ?? false}>
      <Select.Root
        value={value || NONE}
        onValueChange={(chosen) => onValue((chosen === NONE ? '' : chosen) as V)}
        disabled={disabled}
      >
        <Select.Trigger
          id={id}
          aria-invalid={fault ? true : undefined}
          aria-describedby={describedBy(id, { hint, fault })}
          data-value={value}
          className={`${BOX} flex items-center justify-between gap-1 border-edge !px-2.5 text-left leading-tight`}
        >
          <span className="min-w-0 break-words">
            <Select.Value />
          </span>
          <Select.Icon aria-hidden className="shrink-0 text-sm text-muted">
            ▾
          </Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-h-(--radix-select-content-available-height) min-w-(--radix-select-trigger-width) max-w-[92vw] overflow-hidden rounded-lg border border-edge bg-sheet shadow-lg"
          >
            <Select.Viewport className="p-1">
              {options.map((option) => (
                <Select.Item
                  key={option.value}
                  value={option.value || NONE}
                  className="flex min-h-11 items-center justify-between gap-4 rounded-md px-3 outline-none data-highlighted:bg-chosen data-[state=checked]:font-semibold"
                >
                  <Select.ItemText>{option.label}</Select.ItemText>
                  <Select.ItemIndicator aria-hidden>✓</Select.ItemIndicator>
                </Select.Item>
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
    </Frame>
  );
}

/** One of two or three, all in view. */
export function Toggles<V extends string>({
  label,
  options,
  value,
  onValue,
}: { label: string } & Options<V>) {
  const id = useId();
  return (
    <div className="min-w-0">
      <span id={id} className="mb-1 block text-sm font-medium text-muted">
        {label}
      </span>
      <ToggleGroup.Root
        type="single"
        aria-labelledby={id}
        value={value}
        // What is pressed again stays pressed: one of them it is.
        onValueChange={(chosen) => {
          if (chosen) onValue(chosen as V);
        }}
        className="flex overflow-hidden rounded-lg border border-edge"
      >
        {options.map((option) => (
          <ToggleGroup.Item
            key={option.value}
            value={option.value}
            className="min-h-[42px] flex-1 border-l border-edge bg-sheet px-2 leading-tight first:border-l-0 data-[state=on]:bg-ink data-[state=on]:font-semibold data-[state=on]:text-sheet"
          >
            {option.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  );
}
