import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask } from '~/api/client';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { useSaving } from '~/parts/form-dialog';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { clientsQuery } from '~/views/clients/queries';

/** What is kept about a client, as one file; and the way to have it erased. */
export function TheirData({ id, name }: { id: string; name: string }) {
  const [isErasing, setErasing] = useState(false);
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-xl">Their data</h2>
      <p className="mb-3 max-w-prose text-sm text-muted">
        They may ask for a copy of everything that is kept about them, and to have it erased. What your local
        law wants kept, and for how long, is for you to know.
      </p>
      <div className="flex flex-wrap gap-3">
        <a className={buttonClass()} href={`/api/v1/clients/${id}/data.zip`} download>
          Everything as one file
        </a>
        <Button look="alert" onClick={() => setErasing(true)}>
          Erase {name}
        </Button>
      </div>
      {isErasing ? <EraseDialog id={id} onClose={() => setErasing(false)} /> : null}
    </section>
  );
}

function EraseDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const effect = useQuery({
    queryKey: ['clients', id, 'erasure'],
    queryFn: () =>
      ask(api.GET('/api/v1/clients/{client_id}/erasure', { params: { path: { client_id: id } } })),
    gcTime: 0,
  });
  const saving = useSaving(
    (typed: string) =>
      write(
        call('post', '/api/v1/clients/{client_id}/erased', {
          params: { path: { client_id: id } },
          body: { name: typed },
        }),
        { about: `client ${id}`, words: ['A client erased'], href: '/clients' },
      ),
    () => {
      toast.success('They are erased.');
      // Whatever was shown of them is not kept here either.
      queries.removeQueries({ queryKey: ['clients', id] });
      void queries.invalidateQueries({ queryKey: clientsQuery.queryKey });
      void navigate({ to: '/clients', ignoreBlocker: true });
    },
  );
  const found = effect.data;
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title={found ? `Erase ${found.name}` : 'Erase a client'}
      detail="This cannot be undone. Give them their file first, should they want it."
    >
      {effect.isError ? <LoadFailed error={effect.error} retry={() => void effect.refetch()} /> : null}
      {effect.isPending ? <Loading what="what it does" /> : null}
      {found?.in_the_way.length ? (
        <>
          <Notice tone="caution" title="Something is in the way">
            {found.in_the_way.join(' ')}
          </Notice>
          <div className="mt-4 flex justify-end">
            <Close>
              <Button>Close</Button>
            </Close>
          </div>
        </>
      ) : null}
      {found && !found.in_the_way.length ? (
        <form
          noValidate
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault();
            saving.save(name);
          }}
        >
          <Effect title="Gone, here and on the post office" lines={found.gone} />
          <Effect title={`Stays, under “${found.pseudonym}”`} lines={found.stays} />
          <Field
            label={`Type “${found.name}” to erase them`}
            value={name}
            fault={saving.fault('/name')}
            onChange={(event) => setName(event.target.value)}
          />
          <div className="flex justify-end gap-3">
            <Close>
              <Button>Cancel</Button>
            </Close>
            <Button type="submit" look="alert" disabled={name.trim() !== found.name || saving.isSaving}>
              Erase for good
            </Button>
          </div>
        </form>
      ) : null}
    </Overlaid>
  );
}

function Effect({ title, lines }: { title: string; lines: string[] }) {
  return (
    <div>
      <h3 className="text-base">{title}</h3>
      <ul className="list-disc pl-5 text-sm" aria-label={title}>
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  );
}
