import { useEffect, useState } from 'react';
import type { Problem } from '~/lib/api';
import { asText, readNumber } from '~/lib/numbers';
import { Field } from '~/parts/field';

/** A figure that is changed where it stands: Enter or leaving the field sends it, Esc puts it back. */
export function InlineNumber({
  label,
  unit,
  value,
  disabled = false,
  hideLabel = false,
  onCommit,
}: {
  label: string;
  unit: string;
  value: number | null;
  disabled?: boolean;
  hideLabel?: boolean;
  onCommit: (value: number | null) => Promise<Problem | null>;
}) {
  const [text, setText] = useState(asText(value));
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    setText(asText(value));
    setFault(null);
  }, [value]);
  const commit = async () => {
    if (text === asText(value)) return;
    const typed = readNumber(text);
    if (typed.fault) {
      setFault(typed.fault);
      return;
    }
    const problem = await onCommit(typed.value);
    setFault(problem ? (problem.errors?.[0]?.message ?? problem.detail) : null);
  };
  return (
    <Field
      label={label}
      hideLabel={hideLabel}
      unit={unit}
      inputMode="decimal"
      value={text}
      disabled={disabled}
      fault={fault}
      onChange={(event) => {
        setText(event.target.value);
        setFault(null);
      }}
      onBlur={() => void commit()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          void commit();
        }
        if (event.key === 'Escape') {
          setText(asText(value));
          setFault(null);
        }
      }}
    />
  );
}
