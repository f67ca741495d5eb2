import { useEffect, useRef, useState } from 'react';
import type { Problem } from '~/api/client';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { keepDraft, readDraft } from '~/lib/use-draft';
import { Field } from '~/parts/field';

/**
 * A figure that is changed where it stands: Enter or leaving the field sends it, Esc puts it back. What is typed and
 * not sent survives a reload.
 */
export function InlineNumber({
  of,
  label,
  unit,
  value,
  disabled = false,
  hideLabel = false,
  placeholder,
  onCommit,
}: {
  /** The id of what the figure belongs to. */
  of: string;
  label: string;
  /** "g" is a weight: it is shown in the person's unit and may be typed as a sum. */
  unit: string;
  value: number | null;
  disabled?: boolean;
  hideLabel?: boolean;
  /** What stands in where nothing is set. */
  placeholder?: string;
  onCommit: (value: number | string | null) => Promise<Problem | null>;
}) {
  const isWeight = unit === 'g';
  const stored = isWeight ? asWeight(value) : asText(value);
  const draft = `figure/${of}/${label}`;
  const [text, setText] = useState(() => readDraft<string>(draft) ?? stored);
  const [fault, setFault] = useState<string | null>(null);
  const before = useRef(stored);
  /** What was wished last: leaving the field does not wish it again while it waits. */
  const wished = useRef<string | null>(null);
  /** What was typed and is stored now, which may be written another way. */
  const [taken, setTaken] = useState<string | null>(null);
  useEffect(() => {
    const was = before.current;
    before.current = stored;
    // What was typed on while an answer was on its way stays typed.
    setText((now) => (now === was || now === taken ? stored : now));
    setFault(null);
  }, [stored, taken]);
  useEffect(() => keepDraft(draft, text === stored ? null : text), [draft, text, stored]);
  const latest = useRef(text);
  latest.current = text;
  const commit = async () => {
    if (text === stored) return;
    const typed = isWeight ? readWeight(text) : readNumber(text);
    if (typed.fault) {
      setFault(typed.fault);
      return;
    }
    wished.current = text;
    const problem = await onCommit(typed.value);
    if (latest.current !== text) return;
    if (problem) setFault(problem.errors?.[0]?.message ?? problem.detail);
    else setTaken(text);
  };
  return (
    <Field
      label={label}
      hideLabel={hideLabel}
      unit={isWeight ? massUnit() : unit}
      inputMode={isWeight ? 'text' : 'decimal'}
      value={text}
      placeholder={placeholder}
      data-saved={text === stored ? '' : undefined}
      disabled={disabled}
      fault={fault}
      onChange={(event) => {
        setText(event.target.value);
        setTaken(null);
        setFault(null);
      }}
      onBlur={() => {
        if (text !== wished.current) void commit();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          void commit();
        }
        if (event.key === 'Escape') {
          setText(stored);
          setFault(null);
        }
      }}
    />
  );
}
