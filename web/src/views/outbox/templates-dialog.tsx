import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Schemas } from '~/api/client';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import { Area, Field } from '~/parts/field';
import { useSaving } from '~/parts/form-dialog';
import { LoadFailed, Loading } from '~/parts/notice';
import { KINDS, type MessageKind, templatesQuery } from '~/views/outbox/queries';

type Template = Schemas['TemplateView'];

/** What is said in messages of each kind. */
export function TemplatesDialog({ onClose }: { onClose: () => void }) {
  const templates = useQuery(templatesQuery);
  const [kind, setKind] = useState<MessageKind>('hand-over');
  const template = templates.data?.find((one) => one.kind === kind);
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title="Templates"
      detail="What stands in braces is filled for each client."
    >
      {templates.isError ? (
        <LoadFailed error={templates.error} retry={() => void templates.refetch()} />
      ) : null}
      {templates.isPending ? <Loading what="the templates" /> : null}
      {template ? (
        <>
          <Choice label="Messages" options={optionsOf(KINDS)} value={kind} onValue={setKind} />
          <TemplateForm key={`${kind} ${template.subject} ${template.body}`} template={template} />
        </>
      ) : null}
    </Overlaid>
  );
}

function TemplateForm({ template }: { template: Template }) {
  const queries = useQueryClient();
  const [subject, setSubject] = useState(template.subject);
  const [body, setBody] = useState(template.body);
  const saving = useSaving(
    async (typed: Schemas['TemplateInput']) =>
      queries.setQueryData(
        templatesQuery.queryKey,
        await write(
          call('put', '/api/v1/message-templates/{kind}', {
            params: { path: { kind: template.kind } },
            body: typed,
          }),
          { about: `template ${template.kind}`, words: ['A template'], href: '/outbox' },
        ),
      ),
    () => toast.success('The template is saved.'),
  );
  const isSame = subject === template.subject && body === template.body;
  return (
    <form
      noValidate
      className="mt-4 space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        saving.save({ subject, body });
      }}
    >
      <Field
        label="Subject"
        value={subject}
        fault={saving.fault('/subject')}
        onChange={(event) => setSubject(event.target.value)}
      />
      <Area
        label="Text"
        rows={11}
        value={body}
        fault={saving.fault('/body')}
        hint={`What is filled: ${template.places.join(', ')}.`}
        onChange={(event) => setBody(event.target.value)}
      />
      <div className="flex justify-end gap-3">
        {template.is_standard ? null : (
          <Button disabled={saving.isSaving} onClick={() => saving.save({ subject: '', body: '' })}>
            The standard words again
          </Button>
        )}
        <Button type="submit" look="main" disabled={isSame || saving.isSaving}>
          Save the template
        </Button>
      </div>
    </form>
  );
}
