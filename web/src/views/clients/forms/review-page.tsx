import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { dayAndYear, moment, plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Area } from '~/parts/field';
import { LoadFailed, Loading, Notice, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { formsQuery, reviewQuery } from '~/views/clients/forms/queries';
import { clientsQuery } from '~/views/clients/queries';

type Review = Schemas['ReviewView'];
type ReviewField = Schemas['ReviewFieldView'];

/** A form beside its client, to be taken over field by field. */
export function ReviewPage() {
  const { formId } = useParams({ from: '/inside/clients/forms/$formId' });
  const review = useQuery(reviewQuery(formId));
  if (review.isError) return <LoadFailed error={review.error} retry={() => void review.refetch()} />;
  if (!review.data) return <Loading what="the form" />;
  return <Fields key={formId} review={review.data} />;
}

const isTakeable = (field: ReviewField) => field.can_take && !field.same;

function Fields({ review }: { review: Review }) {
  const { form, fields, suggestion } = review;
  const queries = useQueryClient();
  const [left, setLeft] = useState<readonly string[]>([]);
  const [mended, setMended] = useState<Record<string, string>>({});
  const isOpen = form.handed_in_at !== null && form.taken_at === null;
  const chosen = fields.filter((one) => isTakeable(one) && !left.includes(one.key));
  const take = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/forms/{form_id}/taken', {
          params: { path: { form_id: form.id } },
          body: {
            revision: review.revision,
            fields: chosen.map((one) => ({ key: one.key, text: mended[one.key] ?? null })),
          },
        }),
        { about: `form ${form.id}`, words: ['A form taken over'], href: '/clients/forms' },
      ),
    onSuccess: (taken) => {
      queries.setQueryData(reviewQuery(form.id).queryKey, taken);
      void queries.invalidateQueries({ queryKey: formsQuery.queryKey, exact: true });
      void queries.invalidateQueries({ queryKey: clientsQuery.queryKey });
    },
  });
  const problem = take.isError ? toProblem(take.error) : null;
  const fault = faultFinder(new Map(), problem);
  const answered = fields.filter((one) => one.said);
  return (
    <Page
      title={form.kind === 'intake' ? `Form of ${form.name}` : `How was it, ${form.name}`}
      detail={
        form.taken_at
          ? `taken ${moment(form.taken_at)}`
          : form.handed_in_at
            ? `handed in ${moment(form.handed_in_at)}`
            : 'half-filled, not handed in yet'
      }
      actions={
        <>
          {form.client_id ? (
            <Link to="/clients/$clientId" params={{ clientId: form.client_id }} className={buttonClass()}>
              {review.client}
            </Link>
          ) : null}
          {isOpen ? (
            <Button look="main" disabled={take.isPending} onClick={() => take.mutate()}>
              {chosen.length
                ? `Take ${plural(chosen.length, 'field')} ${form.client_id ? 'over' : 'into a new client'}`
                : 'Put it away as read'}
            </Button>
          ) : null}
        </>
      }
    >
      {problem ? (
        <div className="mb-4">
          <ProblemNotice problem={problem} placed={chosen.map((_, index) => `/fields/${index}/text`)} />
        </div>
      ) : null}
      {review.cautions.length ? (
        <div className="mb-4">
          <Notice tone="caution" title="Read this first">
            <ul className="list-disc pl-5">
              {review.cautions.map((words) => (
                <li key={words}>{words}</li>
              ))}
            </ul>
          </Notice>
        </div>
      ) : null}
      <ul className="divide-y divide-steel rounded-xl border border-steel bg-sheet" aria-label="Answers">
        {answered.map((one) => (
          <Answer
            key={one.key}
            field={one}
            isOpen={isOpen}
            isTaken={!left.includes(one.key)}
            text={mended[one.key] ?? one.text ?? ''}
            fault={fault(`/fields/${chosen.indexOf(one)}/text`)}
            onTaken={(isTaken) =>
              setLeft(isTaken ? left.filter((key) => key !== one.key) : [...left, one.key])
            }
            onText={(text) => setMended({ ...mended, [one.key]: text })}
          />
        ))}
      </ul>
      {answered.length < fields.length ? (
        <p className="mt-3 text-sm text-muted">
          Not answered:{' '}
          {fields
            .filter((one) => !one.said)
            .map((one) => one.label.toLowerCase())
            .join(', ')}
          .
        </p>
      ) : null}
      {suggestion ? <Suggested suggestion={suggestion} /> : null}
      <p className="mt-4 text-sm text-muted">
        {review.agreed_at
          ? `Agreed on ${dayAndYear(review.agreed_at)} that this is kept.`
          : 'Nobody agreed that this is kept.'}
      </p>
    </Page>
  );
}

function Answer({
  field,
  isOpen,
  isTaken,
  text,
  fault,
  onTaken,
  onText,
}: {
  field: ReviewField;
  isOpen: boolean;
  isTaken: boolean;
  text: string;
  fault: string | null | undefined;
  onTaken: (isTaken: boolean) => void;
  onText: (text: string) => void;
}) {
  const offered = isOpen && isTakeable(field);
  return (
    <li className="grid gap-x-6 gap-y-1 px-4 py-3 sm:grid-cols-[13rem_1fr_1fr]">
      <span className="flex items-start gap-3">
        {offered ? (
          <input
            type="checkbox"
            className="mt-0.5 size-6 shrink-0 accent-ink"
            aria-label={`Take ${field.label.toLowerCase()}`}
            checked={isTaken}
            onChange={(event) => onTaken(event.target.checked)}
          />
        ) : null}
        <b>{field.label}</b>
      </span>
      {offered && field.text !== null ? (
        <Area
          label={`${field.label}, as it is taken`}
          hideLabel
          rows={Math.min(4, Math.max(1, text.split('\n').length))}
          value={text}
          fault={fault}
          onChange={(event) => onText(event.target.value)}
        />
      ) : (
        <span className="whitespace-pre-wrap">
          {field.said}
          {fault ? <span className="block font-medium text-alert">{fault}</span> : null}
        </span>
      )}
      <span className="text-sm text-muted whitespace-pre-wrap">
        {field.now ? `now: ${field.now}` : ''}
        {field.can_take && field.same && !field.now ? 'nothing new' : ''}
      </span>
    </li>
  );
}

function Suggested({ suggestion }: { suggestion: Schemas['SuggestionView'] }) {
  if (suggestion.referral)
    return (
      <div className="mt-4">
        <Notice tone="caution">{suggestion.referral}</Notice>
      </div>
    );
  return (
    <section className="mt-4" aria-label="How the day is suggested">
      <h2 className="mb-1 text-base">How the day is suggested</h2>
      <ul className="list-disc pl-5 text-sm">
        {[...suggestion.steps, ...suggestion.warnings].map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-muted">
        Assumed: the weight stays as it is, 1.8 g of protein and 0.9 g of fat for each kilogram. Another aim
        is set on the client’s page.
      </p>
    </section>
  );
}
