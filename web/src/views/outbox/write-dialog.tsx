import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { day, moment, plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import { Area, Field } from '~/parts/field';
import { LoadFailed, Loading, Notice, ProblemNotice } from '~/parts/notice';
import { batchesQuery } from '~/views/batches/queries';
import { formsQuery } from '~/views/clients/forms/queries';
import { draftsQuery, KINDS, type MessageKind, outboxQuery } from '~/views/outbox/queries';
import type { Wanted } from '~/views/outbox/search';

type Draft = Schemas['DraftView'];

const isKind = (kind: string | undefined): kind is MessageKind => kind !== undefined && kind in KINDS;

/** Messages of one kind, one for each whom it concerns: read and mended here, before they go. */
export function WriteDialog({ wanted, onClose }: { wanted: Wanted; onClose: () => void }) {
  const [kind, setKind] = useState<MessageKind>(isKind(wanted.kind) ? wanted.kind : 'hand-over');
  const [batch, setBatch] = useState(wanted.batch ?? '');
  const [form, setForm] = useState(wanted.form ?? '');
  const [on, setOn] = useState('');
  const batches = useQuery({ ...batchesQuery, enabled: kind === 'hand-over' });
  const forms = useQuery({ ...formsQuery, enabled: kind === 'form' || kind === 'how was it' });
  const open = (forms.data ?? []).filter(
    (one) => one.is_open && !one.taken_at && (one.kind === 'how was it') === (kind === 'how was it'),
  );
  const asked: Schemas['DraftsInput'] | null =
    kind === 'thaw tonight'
      ? { kind, on: on || null }
      : kind === 'hand-over'
        ? batch
          ? { kind, batch_id: batch }
          : null
        : form
          ? { kind, form_id: form }
          : null;
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title="Write to clients"
      detail="Each gets a message of their own, by the templates; read them before they go."
    >
      <div className="mb-4 grid gap-4 sm:grid-cols-2">
        <Choice
          label="What it says"
          options={optionsOf(KINDS)}
          value={kind}
          onValue={(chosen) => {
            setKind(chosen);
            setForm('');
          }}
        />
        {kind === 'hand-over' ? (
          <Choice
            label="Batch"
            options={[
              { value: '', label: 'Choose one' },
              ...(batches.data ?? []).map((one) => ({
                value: one.id,
                label: `${one.name}, ${day(one.cook_on)}`,
              })),
            ]}
            value={batch}
            onValue={setBatch}
          />
        ) : kind === 'thaw tonight' ? (
          <Field
            label="In the evening of"
            type="date"
            hint="Empty for today."
            value={on}
            onChange={(event) => setOn(event.target.value)}
          />
        ) : (
          <Choice
            label="Form"
            options={[
              { value: '', label: open.length ? 'Choose one' : 'There is no open one' },
              ...open.map((one) => ({ value: one.id, label: one.name })),
            ]}
            value={form}
            onValue={setForm}
          />
        )}
      </div>
      {asked ? <Drafts key={JSON.stringify(asked)} asked={asked} onSent={onClose} /> : null}
    </Overlaid>
  );
}

const keyOf = (draft: Draft) => draft.client_id ?? draft.form_id ?? '';

function Drafts({ asked, onSent }: { asked: Schemas['DraftsInput']; onSent: () => void }) {
  const queries = useQueryClient();
  const drafts = useQuery(draftsQuery(asked));
  const [texts, setTexts] = useState<Record<string, { subject: string; body: string }>>({});
  const [chosen, setChosen] = useState<Record<string, boolean>>({});
  const all = drafts.data ?? [];
  // What went to them already is not sent again unless somebody says so.
  const isChosen = (one: Draft) => !one.lacks && (chosen[keyOf(one)] ?? one.already === null);
  const going = all.filter(isChosen);
  const send = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/outbox', {
          body: {
            address: window.location.origin,
            link_days: 30,
            messages: going.map((one) => ({
              kind: one.kind,
              client_id: one.client_id,
              form_id: one.form_id,
              batch_id: one.batch_id,
              subject: texts[keyOf(one)]?.subject ?? one.subject,
              body: texts[keyOf(one)]?.body ?? one.body,
            })),
          },
        }),
        { about: 'messages', words: [plural(going.length, 'message')], href: '/outbox' },
      ),
    onSuccess: (sent) => {
      void queries.invalidateQueries({ queryKey: outboxQuery.queryKey });
      toast.success(`${plural(sent.length, 'message')} on the way.`);
      onSent();
    },
  });
  if (drafts.isError) return <LoadFailed error={drafts.error} retry={() => void drafts.refetch()} />;
  if (!drafts.data) return <Loading what="the messages" />;
  if (!all.length) return <Notice>Nobody is concerned: there is nothing to be told.</Notice>;
  const problem = send.isError ? toProblem(send.error) : null;
  const fault = faultFinder(new Map(), problem);
  const placed = going.flatMap((_, at) => [`/messages/${at}/subject`, `/messages/${at}/body`]);
  return (
    <>
      {problem ? (
        <div className="mb-4">
          <ProblemNotice problem={problem} placed={placed} />
        </div>
      ) : null}
      <ul className="divide-y divide-steel" aria-label="Messages to send">
        {all.map((one) => (
          <DraftRow
            key={keyOf(one)}
            draft={one}
            isOpen={all.length === 1}
            isChosen={isChosen(one)}
            text={texts[keyOf(one)] ?? one}
            faults={{
              subject: fault(`/messages/${going.indexOf(one)}/subject`),
              body: fault(`/messages/${going.indexOf(one)}/body`),
            }}
            onChosen={(is) => setChosen({ ...chosen, [keyOf(one)]: is })}
            onText={(text) => setTexts({ ...texts, [keyOf(one)]: text })}
          />
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button look="main" disabled={!going.length || send.isPending} onClick={() => send.mutate()}>
          {going.length ? `Send ${plural(going.length, 'message')}` : 'Nothing to send'}
        </Button>
      </div>
    </>
  );
}

function DraftRow({
  draft,
  isOpen,
  isChosen,
  text,
  faults,
  onChosen,
  onText,
}: {
  draft: Draft;
  isOpen: boolean;
  isChosen: boolean;
  text: { subject: string; body: string };
  faults: { subject: string | null; body: string | null };
  onChosen: (is: boolean) => void;
  onText: (text: { subject: string; body: string }) => void;
}) {
  return (
    <li className="py-3">
      <label className="flex min-h-9 items-center gap-3">
        <input
          type="checkbox"
          className="size-6 shrink-0 accent-ink"
          disabled={draft.lacks !== ''}
          checked={isChosen}
          onChange={(event) => onChosen(event.target.checked)}
        />
        <span>
          <b>{draft.name}</b> <span className="text-muted">{draft.address}</span>
          {draft.lacks ? <span className="block text-sm text-alert">{draft.lacks}</span> : null}
          {draft.already ? (
            <span className="block text-sm text-ochre-text">This went to them {moment(draft.already)}.</span>
          ) : null}
        </span>
      </label>
      {draft.lacks ? null : (
        <details className="mt-1 ml-9" open={isOpen || Boolean(faults.subject ?? faults.body)}>
          <summary className="min-h-8 text-sm text-muted">{text.subject}</summary>
          <div className="space-y-3">
            <Field
              label="Subject"
              value={text.subject}
              fault={faults.subject}
              onChange={(event) => onText({ ...text, subject: event.target.value })}
            />
            <Area
              label="Text"
              rows={10}
              value={text.body}
              fault={faults.body}
              hint="{link} becomes their own link when it goes: nobody else reads it, you neither."
              onChange={(event) => onText({ ...text, body: event.target.value })}
            />
          </div>
        </details>
      )}
    </li>
  );
}
