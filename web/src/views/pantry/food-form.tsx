import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useDeferredValue } from 'react';
import type { Schemas } from '~/api/client';
import { forgetFigures } from '~/api/query-client';
import { allergensQuery, foodQuery, foodsQuery } from '~/food/queries';
import type { Form } from '~/lib/use-typed-form';
import { call } from '~/offline/writes';
import { Toggles } from '~/parts/choice';
import { ChoiceField, GramsField, TextField, TicksField, TogglesField } from '~/parts/form-fields';
import { LoadFailed, Loading } from '~/parts/notice';
import { RecordPage } from '~/parts/record-page';
import { useRecordForm } from '~/parts/use-record-form';
import {
  type FoodDraft,
  foodDraft,
  foodInput,
  LABEL_FIGURES,
  newFood,
  type SupplyDraft,
} from '~/views/pantry/draft';
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

const listed = <V extends string>(values: readonly V[]) => values.map((value) => ({ value, label: value }));

const CARBOHYDRATES = [
  { value: 'available', label: 'without fibre (available)' },
  { value: 'total', label: 'with its fibre (total)' },
] as const;

const ROUNDINGS = [
  { value: 'eu', label: 'the EU way, per 100 g' },
  { value: 'us', label: 'the US way, per serving' },
  { value: 'exact', label: 'not at all' },
] as const;

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
  const { control, draft, body, change } = form;
  const needed = ['protein_g', 'carbohydrate_g', 'fat_g'] as const;
  const ready = !form.unreadable && needed.every((key) => draft.label[key] !== '');
  const preview = useQuery({ ...labelQuery(useDeferredValue(body)), enabled: ready });
  return (
    <RecordPage
      form={form}
      what="food"
      isNew={id === null}
      detail={draft.copied_from ? 'a copy with own values' : ''}
      isPlaced={(pointer) => pointer !== '/copied_from'}
    >
      <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_300px]">
        <div className="space-y-5">
          <div className="grid gap-3 sm:grid-cols-[2fr_1fr_1fr_1fr]">
            <TextField control={control} name="name" label="Name" />
            <ChoiceField
              control={control}
              name="group"
              label="Group"
              options={listed([...new Set(['own', ...groups, draft.group])])}
            />
            <ChoiceField control={control} name="state" label="State" options={listed(words.states)} />
            <TextField
              control={control}
              name="other_names"
              label="Other names"
              placeholder="for finding it"
            />
          </div>
          <fieldset className="rounded-xl border border-steel bg-sheet p-4">
            <legend className="px-1 font-heading text-lg font-bold">Label</legend>
            <div className="grid items-start gap-3 sm:grid-cols-3">
              <Toggles
                label="Figures are for"
                value={draft.by_volume ? 'ml' : 'g'}
                options={[
                  { value: 'g', label: 'a weight' },
                  { value: 'ml', label: 'a volume' },
                ]}
                onValue={(unit) => change('by_volume', () => unit === 'ml')}
              />
              {draft.by_volume ? (
                <>
                  <TextField
                    control={control}
                    name="label.serving_ml"
                    label="That is"
                    unit="ml"
                    inputMode="decimal"
                  />
                  <TextField
                    control={control}
                    name="label.ml_weighs_g"
                    label="1 ml weighs"
                    unit="g"
                    inputMode="decimal"
                  />
                </>
              ) : (
                <GramsField control={control} name="label.serving_g" label="That is" />
              )}
            </div>
            <div className="mt-3 grid gap-3 sm:grid-cols-2">
              <TogglesField
                control={control}
                name="label.carbohydrate"
                label="Carbohydrate stated is"
                options={CARBOHYDRATES}
              />
              <ChoiceField
                control={control}
                name="label.rounding"
                label="Figures are rounded"
                options={ROUNDINGS}
              />
            </div>
            <div className="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
              {LABEL_FIGURES.map(([key, label, unit]) => (
                <TextField
                  key={key}
                  control={control}
                  name={`label.${key}`}
                  label={label}
                  unit={unit}
                  className={unit.length > 2 ? '!pr-12' : ''}
                  inputMode="decimal"
                />
              ))}
            </div>
            <p className="mt-2 text-sm text-muted">
              Leave empty what the label does not state: empty is unknown, 0 is none.
            </p>
          </fieldset>
          {/* A food has the fields of a supply under the same names. */}
          <SupplyFields form={form as unknown as Form<SupplyDraft>} />
          <div className="grid gap-5 md:grid-cols-2">
            <fieldset>
              <legend className="mb-1 font-medium">Contains</legend>
              <div className="grid grid-cols-2 gap-x-3">
                <TicksField
                  control={control}
                  name="allergens"
                  options={Object.entries(allergens).map(([value, label]) => ({ value, label }))}
                />
              </div>
              <p className="text-sm text-muted">
                Copy the label’s bold words. Traces count for a client with an allergy: when in doubt, ask a
                licensed professional.
              </p>
            </fieldset>
            <fieldset>
              <legend className="mb-1 font-medium">Fits</legend>
              <TicksField control={control} name="diet_tags" options={listed(words.diets)} />
              <div className="mt-3">
                <TextField control={control} name="note" label="Note" />
              </div>
            </fieldset>
          </div>
        </div>
        <aside aria-label="What the label comes to" className="sticky top-4 space-y-4">
          {ready && preview.data ? (
            <LabelOutcome detail={preview.data} />
          ) : (
            <p className="rounded-xl border border-dashed border-edge p-5 text-muted">
              {ready && preview.isFetching
                ? 'Working out what 100 g hold …'
                : 'Type protein, carbohydrate and fat, and 100 g follow here.'}
            </p>
          )}
          {ready && preview.isError ? (
            <p role="alert" className="text-sm font-medium text-alert">
              {preview.error.message}
            </p>
          ) : null}
        </aside>
      </div>
    </RecordPage>
  );
}
