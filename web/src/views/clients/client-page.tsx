import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useDeferredValue, useState } from 'react';
import type { Schemas } from '~/api/client';
import { MACROS } from '~/food/macros';
import type { MacroKey } from '~/food/nutrients';
import { allergensQuery } from '~/food/queries';
import { asMacro } from '~/lib/numbers';
import { energyUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { call } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Toggles } from '~/parts/choice';
import { Field } from '~/parts/field';
import { GramsField, NoteField, TextField } from '~/parts/form-fields';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { RecordPage } from '~/parts/record-page';
import { useRecordForm } from '~/parts/use-record-form';
import { AtHand } from '~/views/clients/at-hand';
import { DayList } from '~/views/clients/day-list';
import {
  type ClientDraft,
  clientDraft,
  clientInput,
  DAY_FIGURES,
  DAY_LIMITS,
  type DayFigureKey,
  type FigureKey,
  LIMIT_FIGURES,
  newClient,
  newDay,
  newTarget,
  TARGET_FIGURES,
  type TargetDraft,
  TOLERANCES,
  usualTolerance,
} from '~/views/clients/draft';
import { FIGURES } from '~/views/clients/figures';
import { LinkDialog } from '~/views/clients/link-dialog';
import { clientQuery, clientsQuery, daysQuery } from '~/views/clients/queries';
import { ScaleFrom } from '~/views/clients/scale-from';
import { SuggestDay } from '~/views/clients/suggest-day';
import { TargetHistory } from '~/views/clients/target-history';
import { TheirData } from '~/views/clients/their-data';
import { WordField } from '~/views/clients/word-field';

const aimsAtAnything = (target: TargetDraft) =>
  target.day_share !== '' || [...TARGET_FIGURES, ...LIMIT_FIGURES].some((key) => target[key] !== '');

export function NewClient() {
  return <ClientForm id={null} initial={newClient()} client={null} />;
}

export function ClientPage() {
  const { clientId } = useParams({ from: '/inside/clients/$clientId' });
  const client = useQuery(clientQuery(clientId));
  if (client.isError) return <LoadFailed error={client.error} retry={() => void client.refetch()} />;
  if (!client.data) return <Loading what="the client" />;
  return (
    <ClientForm key={client.data.id} id={clientId} initial={clientDraft(client.data)} client={client.data} />
  );
}

function ClientForm({
  id,
  initial,
  client,
}: {
  id: string | null;
  initial: ClientDraft;
  client: Schemas['ClientView'] | null;
}) {
  const navigate = useNavigate();
  const { page } = useSearch({ strict: false });
  const [isLinking, setLinking] = useState(page !== undefined && id !== null);
  const queries = useQueryClient();
  const allergens = useQuery(allergensQuery);
  const form = useRecordForm({
    initial,
    toDraft: clientDraft,
    toInput: clientInput,
    what: 'Client',
    nameOf: (view) => view.name,
    save: (body) =>
      id === null
        ? call('post', '/api/v1/clients', { body })
        : call('put', '/api/v1/clients/{client_id}', { params: { path: { client_id: id } }, body }),
    archive: (archived) =>
      call('put', '/api/v1/clients/{client_id}/archived', {
        params: { path: { client_id: id ?? '' }, query: { archived } },
      }),
    onSaved: (view: Schemas['ClientView']) => {
      queries.setQueryData(clientQuery(view.id).queryKey, view);
      if (id !== null) return;
      void navigate({ to: '/clients/$clientId', params: { clientId: view.id }, ignoreBlocker: true });
    },
    onArchived: () => void navigate({ to: '/clients', ignoreBlocker: true }),
    listKey: clientsQuery.queryKey,
  });
  const { control, draft, change } = form;
  // What is asked about may lag behind what is typed, so it is this that has to make sense.
  const asked = useDeferredValue(form.body);
  const days = useQuery({
    ...daysQuery(asked),
    enabled: (asked.days ?? []).length > 0 && (asked.days ?? []).every(aimsAtSomething) && !form.unreadable,
  });
  /** Add a target with these figures, in the place of one that has none; its meal is asked for where it is taken. */
  const addTarget = (figures: Partial<TargetDraft>) =>
    change('targets', (now) => {
      const kept = now.filter(aimsAtAnything);
      const made = { ...newTarget(), ...figures };
      const taken = kept.some((one) => one.slot === made.slot && one.day_type === made.day_type);
      return [...kept, taken ? { ...made, slot: '' } : made];
    });
  const figureOf = (key: FigureKey, target: TargetDraft, index: number) => (
    <TargetFigure
      key={key}
      of={key}
      form={form}
      index={index}
      day={isShared(target, key) ? (days.data?.targets[index] ?? null) : undefined}
    />
  );

  return (
    <RecordPage
      form={form}
      what="client"
      isNew={id === null}
      actions={
        id === null ? null : (
          <>
            <Button onClick={() => setLinking(true)}>Their page</Button>
            <Link to="/clients/$clientId/weeks" params={{ clientId: id }} className={buttonClass()}>
              Weeks
            </Link>
            <Link to="/clients/forms" search={{ client: id }} className={buttonClass()}>
              Ask by a form
            </Link>
          </>
        )
      }
    >
      <div className="grid gap-4 sm:grid-cols-3">
        <TextField control={control} name="name" label="Name" />
        <TextField control={control} name="note" label="Note" />
        <TextField
          control={control}
          name="email"
          label="E-mail address"
          type="email"
          hint="Messages of the outbox go there."
        />
      </div>

      <DayList form={form} preview={days} />
      <AtHand form={form} />

      <section className="mt-6">
        <h2 className="mb-1 text-xl">What one container shall hold</h2>
        <p className="mb-3 max-w-prose text-sm text-muted">
          Leave a figure empty to not aim at it; all empty is fine for what is split equally, in plate shares,
          by eye or built raw. Targets are for healthy adults; illness, pregnancy, minors and eating disorders
          belong to a doctor or registered dietitian.
        </p>
        <ul className="space-y-3">
          {draft.targets.map((target, index) => (
            <li key={target.key} className="rounded-xl border border-steel bg-sheet p-4">
              <div className="grid grid-cols-2 gap-3 md:grid-cols-4 xl:grid-cols-8">
                <TextField control={control} name={`targets.${index}.slot`} label="Meal" />
                <TextField
                  control={control}
                  name={`targets.${index}.day_type`}
                  label="Kind of day"
                  placeholder="any"
                />
                {draft.days.length ? (
                  <TextField
                    control={control}
                    name={`targets.${index}.day_share`}
                    label="Share of the day"
                    unit="%"
                    inputMode="decimal"
                    placeholder="–"
                  />
                ) : null}
                {TARGET_FIGURES.map((key) => figureOf(key, target, index))}
              </div>
              <Button
                look="quiet"
                className="float-right"
                aria-label={`Remove the target for ${target.slot}`}
                onClick={() => change('targets', (now) => now.filter((one) => one.key !== target.key))}
              >
                Remove
              </Button>
              <details className="mt-2 text-sm" open={LIMIT_FIGURES.some((key) => target[key] !== '')}>
                <summary className="min-h-8 font-medium">Limits and plate</summary>
                <div className="grid grid-cols-2 gap-3 md:grid-cols-5">
                  {LIMIT_FIGURES.map((key) => figureOf(key, target, index))}
                </div>
              </details>
              <Conflict client={client} target={target} />
            </li>
          ))}
        </ul>
        <Button className="mt-3" onClick={() => change('targets', (now) => [...now, newTarget()])}>
          Add a target
        </Button>
      </section>

      <ScaleFrom onTake={addTarget} />
      <SuggestDay
        onTake={addTarget}
        onTakeDay={(figures) =>
          change('days', (now) => [...now, { ...newDay(now.length ? '' : 'any'), ...figures }])
        }
      />
      <div className="mt-4 grid max-w-3xl gap-3 sm:grid-cols-2">
        <TextField
          control={control}
          name="signed_off_by"
          label="Targets signed off by"
          hint="A doctor or registered dietitian, where one is needed."
        />
        <TextField control={control} name="signed_off_on" label="Signed off on" type="date" />
      </div>

      <section className="mt-6">
        <h2 className="mb-3 text-xl">How close is close enough</h2>
        <div className="grid max-w-4xl grid-cols-2 gap-3 sm:grid-cols-5">
          <Toggles
            label="Counted in"
            options={[
              { value: 'amounts', label: `grams, ${energyUnit()}` },
              { value: 'percent', label: '% of the target' },
            ]}
            value={draft.tolerance.percent ? 'percent' : 'amounts'}
            onValue={(counted) =>
              change('tolerance', (now) => ({ ...now, ...usualTolerance(counted === 'percent') }))
            }
          />
          {TOLERANCES.map((key) => (
            <TextField
              key={key}
              control={control}
              name={`tolerance.${key}`}
              alias={`tolerance_${key}`}
              label={`${MACROS[key].word.replace(/^./, (c) => c.toUpperCase())} ±`}
              unit={toleranceUnit(draft.tolerance.percent, key)}
              inputMode="decimal"
            />
          ))}
        </div>
      </section>

      <section className="mt-6">
        <h2 className="mb-1 text-xl">What counts most when not all can be met</h2>
        <p className="mb-3 max-w-prose text-sm text-muted">
          A miss of 2 weighs twice as much as a miss of 1.
        </p>
        <div className="grid max-w-3xl grid-cols-2 gap-3 sm:grid-cols-4">
          {TOLERANCES.map((key) => (
            <TextField
              key={key}
              control={control}
              name={`tolerance.priority_${key}`}
              label={`A miss of ${MACROS[key].word}`}
              inputMode="decimal"
            />
          ))}
        </div>
      </section>

      <section className="mt-6">
        <h2 className="mb-1 text-xl">Must not eat</h2>
        <p className="mb-3 max-w-prose text-sm text-muted">
          Components that contain one of these are left out of this client’s containers. Reference foods name
          the typical allergens only: read every label.
        </p>
        <div className="flex flex-wrap gap-2">
          {Object.entries(allergens.data ?? {}).map(([key, name]) => (
            <label
              key={key}
              className="inline-flex min-h-11 items-center gap-2 rounded-lg border border-steel bg-sheet px-3 has-checked:border-alert has-checked:font-semibold"
            >
              <input
                type="checkbox"
                className="size-5 accent-alert"
                checked={draft.allergens.includes(key)}
                onChange={(event) =>
                  change('allergens', (now) =>
                    event.target.checked ? [...now, key] : now.filter((one) => one !== key),
                  )
                }
              />
              {name}
            </label>
          ))}
        </div>
        <div className="mt-4 grid max-w-4xl gap-3 sm:grid-cols-2">
          <WordField
            label="Leave out as well"
            hint="Words separated by commas, as pork, eggs, nuts: components and dishes with such a food stay out."
            form={form}
            name="exclusions"
            verb="leaves out"
          />
          <WordField
            label="Does not like"
            hint="Words separated by commas; foods with them are marked in the plan."
            form={form}
            name="dislikes"
            verb="marks"
          />
        </div>
      </section>

      <section className="mt-6">
        <h2 className="mb-1 text-xl">At most in one container</h2>
        <p className="mb-3 max-w-prose text-sm text-muted">
          Of components called so, where grams are solved for; it goes before the least of a recipe.
        </p>
        <ul className="max-w-2xl space-y-3">
          {draft.bounds.map((bound, index) => (
            <li key={bound.key} className="flex items-start gap-3">
              <div className="flex-1">
                <TextField control={control} name={`bounds.${index}.word`} label="Called" />
              </div>
              <div className="w-36">
                <GramsField control={control} name={`bounds.${index}.maximum_g`} label="At most" />
              </div>
              <Button
                look="quiet"
                className="mt-6"
                aria-label={`Remove the bound of ${bound.word}`}
                onClick={() => change('bounds', (now) => now.filter((one) => one.key !== bound.key))}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
        <Button
          className="mt-3"
          onClick={() =>
            change('bounds', (now) => [...now, { key: crypto.randomUUID(), word: '', maximum_g: '' }])
          }
        >
          Add a bound
        </Button>
      </section>

      <section className="mt-6">
        <h2 className="mb-3 text-xl">In their words</h2>
        <div className="grid max-w-4xl gap-3 sm:grid-cols-2">
          <TextField control={control} name="likes" label="Likes" hint="Words separated by commas." />
          <NoteField control={control} name="goals" label="Goals" />
          <NoteField
            control={control}
            name="kitchen"
            label="Kitchen"
            hint="What they keep food in and warm it up with."
          />
          <NoteField
            control={control}
            name="health"
            label="Health"
            hint="For you alone: it stands on no label, no sheet and in no plan."
          />
        </div>
      </section>

      {client ? <TargetHistory id={client.id} version={client.version} /> : null}
      {isLinking && id !== null ? <LinkDialog clientId={id} onClose={() => setLinking(false)} /> : null}
      {client ? <TheirData id={client.id} name={client.name} /> : null}
    </RecordPage>
  );
}

const toleranceUnit = (percent: boolean, key: MacroKey) =>
  percent ? '%' : key === 'kcal' ? energyUnit() : MACROS[key].unit;

const aimsAtSomething = (day: Schemas['DayInput']) => DAY_FIGURES.some((key) => day[key] != null);

const SHARED: FigureKey[] = [...DAY_FIGURES, ...DAY_LIMITS];

/** The figure follows from a day. */
const isShared = (target: TargetDraft, key: FigureKey) =>
  target.day_share.trim() !== '' && SHARED.includes(key);

const shared = (figures: Schemas['PlanTarget'] | null, key: DayFigureKey) =>
  asMacro(key, figures?.[key] == null ? null : Math.round(figures[key] * 10) / 10);

/** A figure of a target: typed, or as it follows from the day. */
function TargetFigure({
  of,
  form,
  index,
  day,
}: {
  of: FigureKey;
  form: Form<ClientDraft>;
  index: number;
  /** What the day leaves this meal, null until it is known; undefined where the figure is typed. */
  day: Schemas['PlanTarget'] | null | undefined;
}) {
  const { label, unit } = FIGURES[of];
  const shown = { label, unit: of === 'kcal' ? energyUnit() : unit, inputMode: 'decimal' as const };
  if (day === undefined)
    return <TextField {...shown} control={form.control} name={`targets.${index}.${of}`} />;
  return <Field {...shown} disabled value={shared(day, of as DayFigureKey)} />;
}

function Conflict({ client, target }: { client: Schemas['ClientView'] | null; target: TargetDraft }) {
  const sentence = client?.targets.find((one) => one.id === target.id)?.conflict;
  return sentence ? (
    <div className="mt-3">
      <Notice tone="caution">{sentence}</Notice>
    </div>
  ) : null;
}
