import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { asText, readNumber } from '~/lib/numbers';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { FormDialog, useSaving } from '~/parts/form-dialog';
import type { HandOverDesk } from '~/views/batch/hand-over/use-hand-over';
import { WEEKDAYS, type Week } from '~/views/batch/hand-over/words';

/** When a client eats: from which day, which days of their week are of which type, and what their fridge holds. */
export function WeekForm({ week, desk, onClose }: { week: Week; desk: HandOverDesk; onClose: () => void }) {
  const [first, setFirst] = useState(week.first_is_assumed ? '' : week.first_on);
  const [kinds, setKinds] = useState(() => WEEKDAYS.map((_, at) => week.week[at] ?? ''));
  const [room, setRoom] = useState(asText(week.fridge_l));
  const read = readNumber(room);
  const { save, isSaving, fault } = useSaving(
    (body: Schemas['WeekInput']) => desk.setWeek(week.client_id, body),
    onClose,
  );
  const known = [...new Set([...week.day_types, ...week.week.filter((one) => one !== null)])];
  return (
    <FormDialog
      title={`When ${week.client} eats`}
      isSaving={isSaving}
      onClose={onClose}
      onSubmit={() => {
        if (!read.fault)
          save({ first_on: first || null, week: kinds.map((one) => one || null), fridge_l: read.value });
      }}
    >
      <Field
        label="First day of this batch"
        type="date"
        hint="Empty: the day after cooking."
        value={first}
        onChange={(event) => setFirst(event.target.value)}
        fault={fault('/first_on')}
      />
      <Field
        label="Room in the fridge"
        unit="l"
        inputMode="decimal"
        hint="For containers. Empty: nobody knows."
        value={room}
        onChange={(event) => setRoom(event.target.value)}
        fault={read.fault ?? fault('/fridge_l')}
      />
      {known.length ? (
        <fieldset className="col-span-2">
          <legend className="mb-1 text-sm font-medium text-muted">
            Every week. Days left open get the type of what is eaten on them.
          </legend>
          <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
            {WEEKDAYS.map((name, at) => (
              <Choice
                key={name}
                label={name}
                value={kinds[at] ?? ''}
                options={[
                  { value: '', label: 'open' },
                  ...known.map((kind) => ({ value: kind, label: kind })),
                ]}
                onValue={(kind) => setKinds(kinds.map((one, here) => (here === at ? kind : one)))}
              />
            ))}
          </div>
        </fieldset>
      ) : null}
    </FormDialog>
  );
}
