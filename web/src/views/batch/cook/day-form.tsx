import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { Field, Tick } from '~/parts/field';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { dayOf, readTime, timeOfDay } from '~/views/batch/cook/clock';
import { kitchensQuery } from '~/views/kitchen/queries';

type Day = Schemas['CookDayView'];
type Presence = { key: string; personId: string; before: boolean; from: string; until: string };

const DAY_MIN = 24 * 60;

const presenceOf = (one: Schemas['PresenceView']): Presence => ({
  key: crypto.randomUUID(),
  personId: one.person_id,
  before: dayOf(one.start_min) < 0,
  from: timeOfDay(one.start_min),
  until: timeOfDay(one.end_min),
});

/** Where, from when and by whom a batch is cooked. */
export function DayForm({ batchId, day, onClose }: { batchId: string; day: Day; onClose: () => void }) {
  const kitchens = useQuery(kitchensQuery);
  return (
    <Overlaid open onOpenChange={onClose} title="The cook day" wide>
      {kitchens.isError ? (
        <LoadFailed error={kitchens.error} retry={() => void kitchens.refetch()} />
      ) : kitchens.data ? (
        <Fields batchId={batchId} day={day} kitchens={kitchens.data} onClose={onClose} />
      ) : (
        <Loading what="the kitchens" />
      )}
    </Overlaid>
  );
}

type Props = { batchId: string; day: Day; kitchens: Schemas['KitchenView'][]; onClose: () => void };

function Fields({ batchId, day, kitchens, onClose }: Props) {
  const queries = useQueryClient();
  const [kitchenId, setKitchenId] = useState(day.kitchen_id);
  const [start, setStart] = useState(timeOfDay(day.start_min));
  const [readyBy, setReadyBy] = useState(day.ready_by_min === null ? '' : timeOfDay(day.ready_by_min));
  const [shares, setShares] = useState(day.share_oven);
  const [there, setThere] = useState<Presence[]>(() => day.there.map(presenceOf));
  const people = kitchens.find((one) => one.id === kitchenId)?.people ?? [];
  const local = new Map<string, string>();
  const minute = (pointer: string, text: string, isNeeded = true) => {
    const { minute: found, fault } = readTime(text);
    if (fault || (isNeeded && found === null)) local.set(pointer, fault ?? 'Write a time, as 9:30.');
    return found;
  };
  const body: Schemas['CookDayInput'] = {
    kitchen_id: kitchenId,
    version: day.version,
    start_min: minute('/start_min', start) ?? 0,
    ready_by_min: minute('/ready_by_min', readyBy, false),
    share_oven: shares,
    there: there.map((one, at) => {
      const shift = one.before ? -DAY_MIN : 0;
      return {
        person_id: one.personId,
        start_min: (minute(`/there/${at}/start_min`, one.from) ?? 0) + shift,
        end_min: (minute(`/there/${at}/end_min`, one.until) ?? 0) + shift,
      };
    }),
  };
  const save = useMutation({
    mutationFn: () =>
      write(
        call('put', '/api/v1/batches/{batch_id}/cooking/day', {
          params: { path: { batch_id: batchId } },
          body,
        }),
        { about: `cook day ${batchId}`, words: ['The cook day'], href: `/batches/${batchId}/cook` },
      ),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['plans', batchId, 'cooking'] });
      onClose();
    },
  });
  const problem = save.isError ? toProblem(save.error) : null;
  const fault = faultFinder(local, problem);
  const change = (key: string, part: Partial<Presence>) =>
    setThere((now) => now.map((one) => (one.key === key ? { ...one, ...part } : one)));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (local.size === 0) save.mutate();
  };
  const changeKitchen = (id: string) => {
    setKitchenId(id);
    const now = kitchens.find((one) => one.id === id)?.people ?? [];
    const before = kitchens.find((one) => one.id === kitchenId)?.people ?? [];
    // Who is called the same stays there at the same times.
    setThere((all) =>
      all.flatMap((one) => {
        const name = before.find(({ id: known }) => known === one.personId)?.name;
        const same = now.find((person) => person.name === name);
        return same ? [{ ...one, personId: same.id }] : [];
      }),
    );
  };
  return (
    <form onSubmit={submit} noValidate className="space-y-4">
      {problem ? (
        <ProblemNotice problem={problem} placed={problem.errors?.map((one) => one.pointer) ?? []} />
      ) : null}
      <Choice
        label="Kitchen"
        value={kitchenId}
        options={kitchens.map(({ id, name }) => ({ value: id, label: name }))}
        onValue={changeKitchen}
        fault={fault('/kitchen_id')}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Begin at"
          value={start}
          onChange={(event) => setStart(event.target.value)}
          fault={fault('/start_min')}
        />
        <Field
          label="All ready by"
          hint="Empty, and it is ready as early as it can be."
          value={readyBy}
          onChange={(event) => setReadyBy(event.target.value)}
          fault={fault('/ready_by_min')}
        />
      </div>
      <Tick
        label="Dishes within 10 °C share an oven, a little longer or shorter"
        checked={shares}
        onChange={setShares}
      />
      <fieldset>
        <legend className="font-medium">Who is there</legend>
        <p className="mb-2 text-sm text-muted">
          An appointment or a break lies between two times. On the day before, only what begins long ahead is
          done.
        </p>
        {there.map((one, at) => (
          <div key={one.key} className="mb-2 grid grid-cols-[1fr_120px_72px_72px_auto] items-start gap-2">
            <Choice
              label={`Who, line ${at + 1}`}
              hideLabel
              value={one.personId}
              options={people.map(({ id, name }) => ({ value: id, label: name }))}
              onValue={(personId) => change(one.key, { personId })}
              fault={fault(`/there/${at}/person_id`)}
            />
            <Choice
              label={`Day, line ${at + 1}`}
              hideLabel
              value={one.before ? 'before' : 'day'}
              options={[
                { value: 'day', label: 'on the day' },
                { value: 'before', label: 'the day before' },
              ]}
              onValue={(which) => change(one.key, { before: which === 'before' })}
            />
            <Field
              label={`From, line ${at + 1}`}
              hideLabel
              value={one.from}
              onChange={(event) => change(one.key, { from: event.target.value })}
              fault={fault(`/there/${at}/start_min`)}
            />
            <Field
              label={`Until, line ${at + 1}`}
              hideLabel
              value={one.until}
              onChange={(event) => change(one.key, { until: event.target.value })}
              fault={fault(`/there/${at}/end_min`)}
            />
            <Button
              look="quiet"
              aria-label={`Remove line ${at + 1}`}
              onClick={() => setThere((now) => now.filter((each) => each.key !== one.key))}
            >
              ×
            </Button>
          </div>
        ))}
        <Button
          disabled={people.length === 0}
          onClick={() =>
            setThere((now) => [
              ...now,
              {
                key: crypto.randomUUID(),
                personId: people[0]?.id ?? '',
                before: false,
                from: start,
                until: '21:00',
              },
            ])
          }
        >
          Add a time
        </Button>
        {fault('/there') ? (
          <p role="alert" className="mt-1 text-sm font-medium text-alert">
            {fault('/there')}
          </p>
        ) : null}
      </fieldset>
      <div className="flex justify-end gap-3">
        <Close>
          <Button>Cancel</Button>
        </Close>
        <Button type="submit" look="main" disabled={save.isPending || local.size > 0}>
          Put in order
        </Button>
      </div>
    </form>
  );
}
