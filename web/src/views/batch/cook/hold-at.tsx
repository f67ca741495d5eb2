import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { readTime, timeOfDay } from '~/views/batch/cook/clock';

type Hold = { step: Schemas['CookStepView']; onHold: (minute: number) => void; onFree: () => void };

/** Hold a step at a time, for who does not drag it. */
export function HoldAt({ step, onHold, onFree }: Hold) {
  const [text, setText] = useState(timeOfDay(step.start_min));
  const { minute, fault } = readTime(text);
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (minute !== null) onHold(minute);
      }}
    >
      <div className="w-28">
        <Field
          label="Begin it at"
          value={text}
          onChange={(event) => setText(event.target.value)}
          fault={fault ?? undefined}
        />
      </div>
      <Button type="submit" disabled={minute === null}>
        Hold it there
      </Button>
      {step.is_held ? <Button onClick={onFree}>Let it go</Button> : null}
    </form>
  );
}
