import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { dayAndYear, moment, plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { NewForm } from '~/views/clients/forms/new-form';
import { formsQuery } from '~/views/clients/forms/queries';

/** Forms that clients fill in by link: those that wait to be read first. */
export function FormsPage() {
  const { client } = useSearch({ from: '/inside/clients/forms' });
  const forms = useQuery(formsQuery);
  const [isMaking, setMaking] = useState(client !== undefined);
  if (forms.isError) return <LoadFailed error={forms.error} retry={() => void forms.refetch()} />;
  if (!forms.data) return <Loading what="the forms" />;
  const waiting = forms.data.filter(waits).length;
  return (
    <Page
      title="Forms"
      detail={waiting ? `${plural(waiting, 'form')} to be read` : 'none to be read'}
      actions={
        <Button look="main" onClick={() => setMaking(true)}>
          New form
        </Button>
      }
    >
      {forms.data.length ? (
        <ul className="divide-y divide-steel rounded-xl border border-steel bg-sheet">
          {forms.data.map((form) => (
            <FormRow key={form.id} form={form} />
          ))}
        </ul>
      ) : (
        <Empty title="No form was sent yet">
          <p>
            A new client answers by link what you would ask in an hour; you read it and take it over field by
            field.
          </p>
        </Empty>
      )}
      {isMaking ? <NewForm clientId={client ?? ''} onClose={() => setMaking(false)} /> : null}
    </Page>
  );
}

const waits = (form: Schemas['FormView']) => form.handed_in_at !== null && form.taken_at === null;

function FormRow({ form }: { form: Schemas['FormView'] }) {
  const queries = useQueryClient();
  const revoke = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/forms/{form_id}/revoked', { params: { path: { form_id: form.id } } }), {
        about: `form ${form.id}`,
        words: ['The link of a form revoked'],
        href: '/clients/forms',
      }),
    onSuccess: () => queries.invalidateQueries({ queryKey: formsQuery.queryKey }),
    onError: showProblem,
  });
  const isIntake = form.kind === 'intake';
  return (
    <li className="flex flex-wrap items-center justify-between gap-3 px-4 py-2.5">
      <span>
        <b>{form.name}</b>
        {isIntake ? '' : ', how was it'}
        <span className="block text-sm text-muted">{standing(form)}</span>
      </span>
      <span className="flex gap-3">
        {form.is_open && !form.handed_in_at && form.email ? (
          <Link
            to="/outbox"
            search={{ kind: isIntake ? 'form' : 'how was it', form: form.id }}
            className={buttonClass()}
            aria-label={`Send the form to ${form.name}`}
          >
            Send it
          </Link>
        ) : null}
        {form.is_open && !form.handed_in_at ? (
          <Button
            look="alert"
            disabled={revoke.isPending}
            aria-label={`Revoke the link of ${form.name}`}
            onClick={() => revoke.mutate()}
          >
            Revoke
          </Button>
        ) : null}
        {form.answered || form.taken_at ? (
          <Link
            to="/clients/forms/$formId"
            params={{ formId: form.id }}
            className={buttonClass(waits(form) ? 'main' : 'plain')}
            aria-label={`Read the form of ${form.name}`}
          >
            Read it
          </Link>
        ) : null}
      </span>
    </li>
  );
}

function standing(form: Schemas['FormView']): string {
  if (form.taken_at) return `Taken ${moment(form.taken_at)}.`;
  if (form.handed_in_at) return `Handed in ${moment(form.handed_in_at)}.`;
  const answers = form.answered ? `Half-filled, ${plural(form.answered, 'answer')}` : 'No answer yet';
  const seen = form.seen_at ? `opened ${moment(form.seen_at)}` : 'not opened yet';
  const link = form.is_open
    ? `works until ${dayAndYear(form.expires_at)}`
    : form.revoked_at
      ? 'revoked'
      : 'expired';
  return `${answers}, ${seen}; its link ${form.is_open ? link : `is ${link}`}.`;
}
