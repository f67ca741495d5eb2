import { useState } from 'react';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { BigButton } from '~/views/batch/cook/timers';

type Minutes = {
  title: string;
  action: string;
  onSaid: (text: string, minutes: number) => void;
  onClose: () => void;
};

/** What for, and how many minutes. */
export function MinutesDialog({ title, action, onSaid, onClose }: Minutes) {
  const [name, setName] = useState('');
  const [minutes, setMinutes] = useState('5');
  const count = /^\d{1,3}$/.test(minutes.trim()) ? Number(minutes) : null;
  return (
    <Overlaid open onOpenChange={onClose} title={title}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!name.trim() || !count) return;
          onSaid(name.trim(), count);
          onClose();
        }}
      >
        <Field label="What for" autoFocus value={name} onChange={(event) => setName(event.target.value)} />
        <Field
          label="Minutes"
          inputMode="numeric"
          value={minutes}
          onChange={(event) => setMinutes(event.target.value)}
          fault={count ? undefined : 'Write whole minutes, as 12.'}
        />
        <BigButton type="submit" isMain disabled={!name.trim() || !count}>
          {action}
        </BigButton>
      </form>
    </Overlaid>
  );
}
