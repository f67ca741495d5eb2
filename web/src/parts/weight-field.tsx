import type { ComponentProps } from 'react';
import { useState } from 'react';
import { api, ask, toProblem } from '~/api/client';
import { asWeight, isSum, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { Field } from '~/parts/field';

type Props = Omit<ComponentProps<typeof Field>, 'value' | 'onChange' | 'unit' | 'inputMode'> & {
  value: string;
  onText: (text: string) => void;
  /** Keep a sum as it was typed; what it comes to is told here and shown below. */
  onSum?: (grams: number | null) => void;
};

/**
 * A weight: a number, a sum ("412+380-35"), or before less after ("812-764"). Leaving the field puts what it
 * comes to in its place and keeps the sum beside it; until then the text goes to the server as it stands.
 */
export function WeightField({ value, onText, onSum, fault, hint, onBlur, ...rest }: Props) {
  const [sum, setSum] = useState('');
  const [unread, setUnread] = useState<string | null>(null);
  const typed = readWeight(value);
  const settle = async () => {
    if (!isSum(value) || typed.fault !== null || typeof typed.value !== 'string') return;
    try {
      const read = await ask(api.GET('/api/v1/weights', { params: { query: { text: typed.value } } }));
      if (onSum) {
        setSum(`${asWeight(read.grams)} ${massUnit()}`);
        onSum(read.grams);
        return;
      }
      setSum(value.trim());
      onText(asWeight(read.grams));
    } catch (error) {
      setUnread(toProblem(error).detail);
    }
  };
  return (
    <Field
      {...rest}
      unit={massUnit()}
      inputMode="text"
      data-weight
      value={value}
      onChange={(event) => {
        setSum('');
        setUnread(null);
        onSum?.(null);
        onText(event.target.value);
      }}
      onBlur={(event) => {
        onBlur?.(event);
        void settle();
      }}
      hint={sum ? `= ${sum}` : hint}
      fault={unread ?? fault}
    />
  );
}
