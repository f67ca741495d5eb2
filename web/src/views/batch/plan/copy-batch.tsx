import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { toProblem } from '~/api/client';
import { day } from '~/lib/format';
import { useIsHere } from '~/lib/use-is-here';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { batchesQuery, planQuery } from '~/views/batches/queries';

/** A week after a day, as a date field has it. */
function weekAfter(date: string) {
  const then = new Date(`${date}T12:00`);
  then.setDate(then.getDate() + 7);
  return then.toLocaleDateString('sv-SE');
}

/** The name of a batch for another day: what named the day before is left out. */
const nameFor = (plan: Plan, cookOn: string) =>
  plan.batch.name.includes(day(plan.batch.cook_on))
    ? plan.batch.name.replace(day(plan.batch.cook_on), day(cookOn))
    : plan.batch.name;

/** The same dishes for the same people on another day, with their targets of today and what was learned. */
export function CopyBatch({ plan }: { plan: Plan }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const isHere = useIsHere();
  const [cookOn, setCookOn] = useState(() => weekAfter(plan.batch.cook_on));
  const [typed, setTyped] = useState<string | null>(null);
  const name = typed ?? nameFor(plan, cookOn);
  const copy = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/batches/{batch_id}/copies', {
          params: { path: { batch_id: plan.batch.id } },
          body: { name, cook_on: cookOn },
        }),
        { about: 'batches', words: [`Batch ${name}`], href: `/batches/${plan.batch.id}` },
      ),
    onSuccess: (made) => {
      queries.setQueryData(planQuery(made.batch.id).queryKey, made);
      void queries.invalidateQueries({ queryKey: batchesQuery.queryKey });
      if (isHere.current) void navigate({ to: '/batches/$batchId', params: { batchId: made.batch.id } });
    },
  });
  const problem = copy.isError ? toProblem(copy.error) : null;
  const fault = (pointer: string) => problem?.errors?.find((one) => one.pointer === pointer)?.message;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    copy.mutate();
  };
  return (
    <form onSubmit={submit} noValidate className="space-y-3 border-t border-steel pt-3">
      <h3 className="text-lg">Cook it again</h3>
      <p className="text-sm text-muted">
        The same dishes and people, their targets as they are now, and the yields learned since.
      </p>
      <Field
        label="Again on"
        type="date"
        value={cookOn}
        onChange={(event) => setCookOn(event.target.value)}
        fault={fault('/cook_on')}
      />
      <Field
        label="Called"
        value={name}
        onChange={(event) => setTyped(event.target.value)}
        fault={fault('/name')}
      />
      {problem ? <ProblemNotice problem={problem} placed={['/name', '/cook_on']} /> : null}
      <Button type="submit" className="w-full" disabled={copy.isPending}>
        {copy.isPending ? 'Planning …' : 'Plan it again'}
      </Button>
    </form>
  );
}

/** The batch out of the lists: put away, or deleted; both can be taken back. */
export function LeaveBatch({ plan, desk }: { plan: Plan; desk: PlanDesk }) {
  const navigate = useNavigate();
  const remove = async () => {
    const problem = await desk.change(() => [{ kind: 'delete', deleted: true }]);
    if (problem) return;
    void navigate({ to: '/batches' });
    toast(`${plan.batch.name} is deleted.`, {
      action: {
        label: 'Open it',
        onClick: () => void navigate({ to: '/batches/$batchId', params: { batchId: plan.batch.id } }),
      },
    });
  };
  const away = plan.batch.put_away_at !== null;
  return (
    <section aria-label="Put away or delete" className="space-y-2 border-t border-steel pt-3">
      <Button
        className="w-full"
        onClick={() => void desk.act((now) => [{ kind: 'put-away', away: now.batch.put_away_at === null }])}
      >
        {away ? 'Back into the lists' : 'Put the batch away'}
      </Button>
      <Button className="w-full" onClick={() => void remove()}>
        Delete the batch
      </Button>
    </section>
  );
}
