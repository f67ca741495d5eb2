import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useDeferredValue } from 'react';
import type { Schemas } from '~/api/client';
import { forgetFigures } from '~/api/query-client';
import { foodQuery, foodsQuery } from '~/food/queries';
import { useRecordForm } from '~/lib/use-record-form';
import { call } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, Field, Tick } from '~/parts/field';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { WeightField } from '~/parts/weight-field';
import { allergensQuery } from '~/views/clients/queries';
import { type FoodDraft, foodDraft, foodInput, LABEL_FIGURES, newFood } from '~/views/pantry/draft';
import { LabelOutcome } from '~/views/pantry/label-outcome';
import { facetsQuery, foodWordsQuery, labelQuery } from '~/views/pantry/queries';
import { SupplyFields } from '~/views/pantry/supply-fields';

export function NewFood() {
  const { copy } = useSearch({ from: '/inside/pantry/new' });
  const original = useQuery({ ...foodQuery(copy ?? ''), enabled: copy !== undefined });
  if (copy === undefined) return <FoodForm id={null} initial={newFood()} />;
  if (original.isError) return <LoadFailed error={original.error} retry={() => void original.refetch()} />;
  if (!original.data) return <Loading what="the food to copy" />;
  return <FoodForm id={null} initial={foodDraft(original.data, true)} />;
}

export function FoodPage() {
  const { foodId } = useParams({ from: '/inside/pantry/$foodId' });
  const food = useQuery(foodQuery(foodId));
  if (food.isError) return <LoadFailed error={food.error} retry={() => void food.refetch()} />;
  if (!food.data) return <Loading what="the food" />;
  return <FoodForm key={foodId} id={foodId} initial={foodDraft(food.data)} />;
}

function FoodForm({ id, initial }: { id: string | null; initial: FoodDraft }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const words = useQuery(foodWordsQuery).data ?? { states: [initial.state], diets: [] };
  const groups = Object.keys(useQuery(facetsQuery).data?.groups ?? {});
  const allergens = useQuery(allergensQuery).data ?? {};
  const form = useRecordForm({
    initial,
    toDraft: (view: Schemas['FoodDetail']) => foodDraft(view),
    toInput: foodInput,
    what: 'Food',
    nameOf: (view) => view.food.name,
    save: (body) =>
      id === null
        ? call('post', '/api/v1/foods', { body })
        : call('put', '/api/v1/foods/{food_id}', { params: { path: { food_id: id } }, body }),
    archive: (archived) =>
      call('put', '/api/v1/foods/{food_id}/archived', {
        params: { path: { food_id: id ?? '' }, query: { archived } },
      }),
    onSaved: (view) => {
      forgetFigures(queries);
      queries.setQueryData(foodQuery(view.food.id).queryKey, view);
      if (id === null)
        void navigate({
          to: '/pantry',
          search: { food: view.food.id, text: view.food.name },
          ignoreBlocker: true,
        });
    },
    onArchived: () => void navigate({ to: '/pantry', search: {}, ignoreBlocker: true }),
    listKey: foodsQuery({ text: '', limit: 0 }).queryKey.slice(0, 1),
  });
  const { draft, body, dirty, problem, fault, change, submit } = form;
  const needed = ['protein_g', 'carbohydrate_g', 'fat_g'] as const;
  const ready = !form.unreadable && needed.every((key) => draft.figures[key] !== '');
  const preview = useQuery({ ...labelQuery(useDeferredValue(body)), enabled: ready });
  const toggle = (list: string[], one: string) =>
    list.includes(one) ? list.filter((other) => other !== one) : [...list, one];
  return (
    <form onSubmit={submit} noValidate>
      <Page
        title={draft.name || 'New food'}
        detail={
          form.waits
            ? 'kept in this browser until the server answers'
            : dirty
              ? 'not saved yet'
              : draft.copied_from
                ? 'a copy with own values'
                : ''
        }
        actions={
          <>
            {form.canUndo ? <Button onClick={form.undo}>Undo</Button> : null}
            {id === null ? null : <Button onClick={() => form.archive()}>Archive</Button>}
            <Button type="submit" look="main" disabled={form.saving || form.unreadable}>
              {form.waits ? 'Waits for the server …' : form.saving ? 'Saving …' : 'Save food'}
            </Button>
          </>
        }
      >
        {problem ? (
          <div className="mb-4">
            <ProblemNotice
              problem={problem}
              placed={problem.errors?.map((one) => one.pointer).filter((one) => one !== '/copied_from') ?? []}
            />
          </div>
        ) : null}
        <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_300px]">
          <div className="space-y-5">
            <div className="grid gap-3 sm:grid-cols-[2fr_1fr_1fr_1fr]">
              <Field
                label="Name"
                value={draft.name}
                onChange={(event) => change({ name: event.target.value })}
                fault={fault('/name')}
              />
              <Choice
                label="Group"
                value={draft.group}
                options={[...new Set(['own', ...groups, draft.group])].map((one) => ({
                  value: one,
                  label: one,
                }))}
                onChange={(event) => change({ group: event.target.value })}
                fault={fault('/group')}
              />
              <Choice
                label="State"
                value={draft.state}
                options={words.states.map((one) => ({ value: one, label: one }))}
                onChange={(event) => change({ state: event.target.value as Schemas['FoodState'] })}
                fault={fault('/state')}
              />
              <Field
                label="Other names"
                placeholder="for finding it"
                value={draft.other_names}
                onChange={(event) => change({ other_names: event.target.value })}
              />
            </div>
            <fieldset className="rounded-xl border border-steel bg-sheet p-4">
              <legend className="px-1 font-heading text-lg font-bold">Label</legend>
              <div className="grid items-start gap-3 sm:grid-cols-3">
                <Choice
                  label="Figures are for"
                  value={draft.by_volume ? 'ml' : 'g'}
                  options={[
                    { value: 'g', label: 'a weight' },
                    { value: 'ml', label: 'a volume' },
                  ]}
                  onChange={(event) => change({ by_volume: event.target.value === 'ml' })}
                />
                {draft.by_volume ? (
                  <>
                    <Field
                      label="That is"
                      unit="ml"
                      inputMode="decimal"
                      value={draft.serving_ml}
                      onChange={(event) => change({ serving_ml: event.target.value })}
                      fault={fault('/label/serving_ml')}
                    />
                    <Field
                      label="1 ml weighs"
                      unit="g"
                      inputMode="decimal"
                      value={draft.ml_weighs_g}
                      onChange={(event) => change({ ml_weighs_g: event.target.value })}
                      fault={fault('/label/ml_weighs_g')}
                    />
                  </>
                ) : (
                  <WeightField
                    label="That is"
                    value={draft.serving_g}
                    onText={(serving_g) => change({ serving_g })}
                    fault={fault('/label/serving_g')}
                  />
                )}
              </div>
              <div className="mt-3 grid gap-3 sm:grid-cols-3">
                <Choice
                  label="Carbohydrate stated is"
                  value={draft.carbohydrate}
                  options={[
                    { value: 'available', label: 'without fibre (available)' },
                    { value: 'total', label: 'with its fibre (total)' },
                  ]}
                  onChange={(event) =>
                    change({ carbohydrate: event.target.value as FoodDraft['carbohydrate'] })
                  }
                />
                <Choice
                  label="Figures are rounded"
                  value={draft.rounding}
                  options={[
                    { value: 'eu', label: 'the EU way, per 100 g' },
                    { value: 'us', label: 'the US way, per serving' },
                    { value: 'exact', label: 'not at all' },
                  ]}
                  onChange={(event) => change({ rounding: event.target.value as FoodDraft['rounding'] })}
                />
              </div>
              <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
                {LABEL_FIGURES.map(([key, label, unit]) => (
                  <Field
                    key={key}
                    label={label}
                    unit={unit}
                    className={unit.length > 2 ? '!pr-12' : ''}
                    inputMode="decimal"
                    value={draft.figures[key]}
                    onChange={(event) =>
                      change((now) => ({ figures: { ...now.figures, [key]: event.target.value } }))
                    }
                    fault={fault(`/label/${key}`)}
                  />
                ))}
              </div>
              <p className="mt-2 text-sm text-muted">
                Leave empty what the label does not state: empty is unknown, 0 is none.
              </p>
            </fieldset>
            <SupplyFields supply={draft} fault={fault} onChange={change} />
            <div className="grid gap-5 md:grid-cols-2">
              <fieldset>
                <legend className="mb-1 font-medium">Contains</legend>
                <div className="grid grid-cols-2 gap-x-3">
                  {Object.entries(allergens).map(([key, name]) => (
                    <Tick
                      key={key}
                      label={name}
                      checked={draft.allergens.includes(key)}
                      onChange={() => change({ allergens: toggle(draft.allergens, key) })}
                    />
                  ))}
                </div>
                <p className="text-sm text-muted">
                  Copy the label’s bold words. Traces count for a client with an allergy: when in doubt, ask a
                  licensed professional.
                </p>
              </fieldset>
              <fieldset>
                <legend className="mb-1 font-medium">Fits</legend>
                {words.diets.map((tag) => (
                  <Tick
                    key={tag}
                    label={tag}
                    checked={draft.diet_tags.includes(tag)}
                    onChange={() => change({ diet_tags: toggle(draft.diet_tags, tag) })}
                  />
                ))}
                <div className="mt-3">
                  <Field
                    label="Note"
                    value={draft.note}
                    onChange={(event) => change({ note: event.target.value })}
                  />
                </div>
              </fieldset>
            </div>
          </div>
          <aside aria-label="What the label comes to" className="sticky top-4 space-y-4">
            {ready && preview.data ? (
              <LabelOutcome detail={preview.data} />
            ) : (
              <p className="rounded-xl border border-dashed border-edge p-5 text-muted">
                Type protein, carbohydrate and fat, and 100 g follow here.
              </p>
            )}
            {ready && preview.isError ? (
              <p role="alert" className="text-sm font-medium text-alert">
                {preview.error.message}
              </p>
            ) : null}
          </aside>
        </div>
      </Page>
    </form>
  );
}
