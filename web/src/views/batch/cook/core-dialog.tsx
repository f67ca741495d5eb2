import { type FormEvent, useState } from 'react';
import type { Schemas } from '~/api/client';
import { readNumber } from '~/lib/numbers';
import { heatInCelsius, temperature, temperatureUnit } from '~/lib/units';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { BigButton } from '~/views/batch/cook/timers';

type Prompt = Schemas['PromptView'];
type Props = {
  prompt: Prompt;
  onRead: (celsius: number) => void;
  onLonger: (minutes: number) => void;
  onUnread: () => void;
  onClose: () => void;
};

/** The core temperature before something is done: too cold, and it stays where it is. */
export function CoreDialog({ prompt, onRead, onLonger, onUnread, onClose }: Props) {
  const [text, setText] = useState('');
  const { value, fault } = readNumber(text);
  const wanted = prompt.core_c ?? 0;
  const celsius = value === null ? null : heatInCelsius(value);
  const isTooCold = celsius !== null && celsius < wanted;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (celsius !== null && !fault) onRead(celsius);
  };
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      title={`${prompt.component}: ${temperature(wanted)} inside?`}
      detail="In the thickest part, away from bone. Wipe the probe between foods. Local rules prevail."
    >
      <form onSubmit={submit} className="space-y-3">
        <Field
          label="Core temperature"
          unit={`°${temperatureUnit()}`}
          inputMode="decimal"
          autoFocus
          value={text}
          onChange={(event) => setText(event.target.value)}
          fault={fault ?? undefined}
        />
        {isTooCold ? (
          <p role="alert" className="font-medium text-alert">
            Too cold: it stays on. Give it longer and read again
            {wanted > 70 && celsius >= 70 ? '; 70 °C held for two minutes counts too' : ''}.
          </p>
        ) : null}
        <div className="flex flex-wrap gap-2">
          <BigButton type="submit" isMain disabled={celsius === null || fault !== null}>
            {isTooCold ? 'Note it, 5 more minutes' : 'Note it, done'}
          </BigButton>
          <BigButton onClick={() => onLonger(5)}>Not yet, 5 more</BigButton>
          <BigButton onClick={onUnread}>Done, not read</BigButton>
        </div>
      </form>
    </Overlaid>
  );
}
