import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { readNumber } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, Toggles } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { useSaving } from '~/parts/form-dialog';
import { NewLink } from '~/parts/new-link';
import { formsQuery } from '~/views/clients/forms/queries';
import { clientsQuery } from '~/views/clients/queries';

type Kind = Schemas['FormInput']['kind'];

/** A form for somebody new, or for a client; its link is shown once. */
export function NewForm({ clientId, onClose }: { clientId: string; onClose: () => void }) {
  const queries = useQueryClient();
  const clients = useQuery(clientsQuery);
  const [made, setMade] = useState<Schemas['NewFormView'] | null>(null);
  const [client, setClient] = useState(clientId);
  const [kind, setKind] = useState<NonNullable<Kind>>('intake');
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [days, setDays] = useState('30');
  const read = readNumber(days);
  const saving = useSaving(
    async (body: Schemas['FormInput']) =>
      setMade(
        await write(call('post', '/api/v1/forms', { body }), {
          about: 'a new form',
          words: ['A form'],
          href: '/clients/forms',
        }),
      ),
    () => void queries.invalidateQueries({ queryKey: formsQuery.queryKey }),
  );
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title="New form"
      detail="It opens by a link, without an account. What is half-filled is kept, and nothing before it is agreed to."
    >
      {made ? (
        <>
          <NewLink made={made} />
          <Button look="plain" onClick={onClose}>
            Done
          </Button>
        </>
      ) : (
        <form
          noValidate
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            if (read.fault) return;
            saving.save({
              kind,
              client_id: client || null,
              name,
              email,
              days: read.value ?? 0,
              address: window.location.origin,
            });
          }}
        >
          <Choice
            label="For"
            options={[
              { value: '', label: 'Somebody new' },
              ...(clients.data ?? []).map((one) => ({ value: one.id, label: one.name })),
            ]}
            value={client}
            fault={saving.fault('/client_id')}
            onValue={(chosen) => {
              setClient(chosen);
              if (!chosen) setKind('intake');
            }}
          />
          {client ? (
            <Toggles
              label="What is asked"
              options={[
                { value: 'intake', label: 'Everything, to get to know them' },
                { value: 'how was it', label: 'How it was, three questions' },
              ]}
              value={kind}
              onValue={setKind}
            />
          ) : (
            <div className="grid gap-4 sm:grid-cols-2">
              <Field
                label="Name"
                value={name}
                onChange={(event) => setName(event.target.value)}
                fault={saving.fault('/name')}
              />
              <Field
                label="E-mail address"
                type="email"
                placeholder="only to send it from here"
                value={email}
                onChange={(event) => setEmail(event.target.value)}
                fault={saving.fault('/email')}
              />
            </div>
          )}
          <Field
            label="Its link works for"
            unit="days"
            inputMode="numeric"
            value={days}
            onChange={(event) => setDays(event.target.value)}
            fault={read.fault ?? saving.fault('/days')}
          />
          {saving.fault('/address') ? <p className="text-alert">{saving.fault('/address')}</p> : null}
          <Button type="submit" look="main" disabled={saving.isSaving}>
            Make the form
          </Button>
        </form>
      )}
    </Overlaid>
  );
}
