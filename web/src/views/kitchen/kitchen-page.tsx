import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams } from '@tanstack/react-router';
import type { Schemas } from '~/api/client';
import { massUnit, temperatureUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { call } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { TextField, TicksField } from '~/parts/form-fields';
import { LoadFailed, Loading } from '~/parts/notice';
import { RecordPage } from '~/parts/record-page';
import { useRecordForm } from '~/parts/use-record-form';
import {
  type ItemDraft,
  itemOf,
  type KitchenDraft,
  kitchenDraft,
  kitchenInput,
  newKitchen,
  newPerson,
  SKILLS,
} from '~/views/kitchen/kitchen-draft';
import { equipmentQuery, kitchenQuery, kitchensQuery } from '~/views/kitchen/queries';

export function NewKitchen() {
  return <KitchenForm id={null} initial={newKitchen()} />;
}

export function KitchenPage() {
  const { kitchenId } = useParams({ from: '/inside/kitchens/$kitchenId' });
  const kitchen = useQuery(kitchenQuery(kitchenId));
  if (kitchen.isError) return <LoadFailed error={kitchen.error} retry={() => void kitchen.refetch()} />;
  if (!kitchen.data) return <Loading what="the kitchen" />;
  return <KitchenForm key={kitchen.data.id} id={kitchenId} initial={kitchenDraft(kitchen.data)} />;
}

function KitchenForm({ id, initial }: { id: string | null; initial: KitchenDraft }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const form = useRecordForm({
    initial,
    toDraft: kitchenDraft,
    toInput: kitchenInput,
    what: 'Kitchen',
    nameOf: (view) => view.name,
    save: (body) =>
      id === null
        ? call('post', '/api/v1/kitchens', { body })
        : call('put', '/api/v1/kitchens/{kitchen_id}', { params: { path: { kitchen_id: id } }, body }),
    archive: (archived) =>
      call('put', '/api/v1/kitchens/{kitchen_id}/archived', {
        params: { path: { kitchen_id: id ?? '' }, query: { archived } },
      }),
    onSaved: (view: Schemas['KitchenView']) => {
      queries.setQueryData(kitchenQuery(view.id).queryKey, view);
      void queries.invalidateQueries({ queryKey: ['plans'] });
      if (id !== null) return;
      void navigate({ to: '/kitchens/$kitchenId', params: { kitchenId: view.id }, ignoreBlocker: true });
    },
    onArchived: () => void navigate({ to: '/settings', ignoreBlocker: true }),
    listKey: kitchensQuery.queryKey,
  });
  return (
    <RecordPage form={form} what="kitchen" isNew={id === null}>
      <div className="max-w-md">
        <TextField control={form.control} name="name" label="Name" placeholder="Boathouse" />
      </div>
      <People form={form} draft={form.draft} />
      <Equipment form={form} draft={form.draft} />
    </RecordPage>
  );
}

type Part = { form: Form<KitchenDraft>; draft: KitchenDraft };

function People({ form, draft }: Part) {
  const { control, change } = form;
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-xl">Who cooks</h2>
      <ul className="space-y-2">
        {draft.people.map((person, index) => (
          <li key={person.key} className="rounded-xl border border-steel bg-sheet p-3">
            <div className="grid items-start gap-x-4 gap-y-2 lg:grid-cols-[220px_150px_minmax(0,1fr)_auto]">
              <TextField control={control} name={`people.${index}.name`} label="Name" />
              <TextField
                control={control}
                name={`people.${index}.pace`}
                label="Times the usual minutes"
                inputMode="decimal"
              />
              <fieldset>
                <legend className="text-sm font-medium text-muted">Does</legend>
                <div className="flex flex-wrap gap-x-5">
                  <TicksField control={control} name={`people.${index}.does`} options={SKILLS} />
                </div>
              </fieldset>
              <Button
                look="quiet"
                aria-label={`Remove ${person.name || 'this person'}`}
                onClick={() => change('people', (now) => now.filter((one) => one.key !== person.key))}
              >
                ×
              </Button>
            </div>
          </li>
        ))}
      </ul>
      <Button className="mt-2" onClick={() => change('people', (now) => [...now, newPerson()])}>
        Add a person
      </Button>
    </section>
  );
}

function Equipment({ form, draft }: Part) {
  const { change } = form;
  const usual = useQuery(equipmentQuery);
  const kinds = new Map(usual.data?.map((one) => [one.kind, one.kind_name]));
  const ovens = draft.items.filter((one) => one.kind === 'oven');
  return (
    <section className="mt-6">
      <h2 className="text-xl">What there is to cook on</h2>
      <p className="mb-2 max-w-prose text-sm text-muted">
        How much goes on at once decides the rounds. An oven has one temperature at a time; a board for raw
        food keeps it away from what is ready to eat.
      </p>
      <ul className="space-y-2">
        {draft.items.map((item, index) => (
          <ItemRow
            key={item.key}
            form={form}
            item={item}
            index={index}
            kind={kinds.get(item.kind) ?? item.kind}
            ovens={ovens}
          />
        ))}
      </ul>
      <div className="mt-3 max-w-md">
        <Choice
          label="Add equipment"
          value=""
          options={[
            { value: '', label: 'choose' },
            ...(usual.data ?? []).map(({ key, name }) => ({ value: key, label: name })),
          ]}
          onValue={(chosen) => {
            const found = usual.data?.find(({ key }) => key === chosen);
            if (found) change('items', (now) => [...now, itemOf(found)]);
          }}
        />
      </div>
    </section>
  );
}

/** Of these kinds one has several places. */
const PLACES: Partial<Record<string, string>> = { oven: 'Shelves', hob: 'Rings', 'air-fryer': 'Baskets' };
const HEATED = ['oven', 'grill', 'air-fryer'];
const LOADED = [
  'oven',
  'grill',
  'pan',
  'pot',
  'steamer',
  'tray',
  'tin',
  'rice-cooker',
  'air-fryer',
  'slow-cooker',
  'pressure-cooker',
  'microwave',
  'processor',
];
const WITH_LITRES = [
  'pot',
  'pan',
  'tin',
  'slow-cooker',
  'pressure-cooker',
  'rice-cooker',
  'fridge',
  'freezer',
  'blender',
  'kettle',
];

type Row = { form: Form<KitchenDraft>; item: ItemDraft; index: number; kind: string; ovens: ItemDraft[] };

function ItemRow({ form, item, index, kind, ovens }: Row) {
  const { control, change } = form;
  const at = `items.${index}` as const;
  const places = PLACES[item.kind];
  const figure = (
    name: 'count' | 'places' | 'capacity_l' | 'meat_g' | 'vegetables_g' | 'grain_g' | 'most_c',
    label: string,
    unit = '',
  ) => <TextField control={control} name={`${at}.${name}`} label={label} unit={unit} inputMode="decimal" />;
  return (
    <li className="rounded-xl border border-steel bg-sheet p-3">
      <div className="grid items-start gap-2 lg:grid-cols-[220px_minmax(0,1fr)_auto]">
        <TextField
          control={control}
          name={`${at}.name`}
          label={`${kind[0]?.toUpperCase()}${kind.slice(1)}`}
        />
        <div className="grid grid-cols-3 gap-2 sm:grid-cols-5 xl:grid-cols-7">
          {figure('count', 'How many')}
          {places ? figure('places', places) : null}
          {WITH_LITRES.includes(item.kind) ? figure('capacity_l', 'Holds', 'l') : null}
          {LOADED.includes(item.kind) ? (
            <>
              {figure('meat_g', 'Meat', massUnit())}
              {figure('vegetables_g', 'Vegetables', massUnit())}
              {figure('grain_g', 'Dry grain', massUnit())}
            </>
          ) : null}
          {HEATED.includes(item.kind) ? figure('most_c', 'At most', `°${temperatureUnit()}`) : null}
          {item.kind === 'grill' && ovens.length ? (
            <Choice
              label="Built into"
              value={item.within_id ?? ''}
              options={[
                { value: '', label: 'nothing' },
                ...ovens.map(({ id, name }) => ({ value: id, label: name })),
              ]}
              onValue={(chosen) =>
                change('items', (now) =>
                  now.map((one) => (one.key === item.key ? { ...one, within_id: chosen || null } : one)),
                )
              }
            />
          ) : null}
        </div>
        <Button
          look="quiet"
          aria-label={`Remove ${item.name || kind}`}
          onClick={() => change('items', (now) => now.filter((one) => one.key !== item.key))}
        >
          ×
        </Button>
      </div>
    </li>
  );
}
