import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { day, listed, percent, plural, slotName } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { oddsWords } from '~/lib/odds';
import { useDraft } from '~/lib/use-draft';
import { useIsHere } from '~/lib/use-is-here';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { Empty, LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { batchesQuery, planQuery } from '~/views/batches/queries';
import { clientsQuery } from '~/views/clients/queries';
import { houseQuery } from '~/views/house/queries';
import { UseUp } from '~/views/house/use-up';
import { recipesQuery } from '~/views/recipes/queries';

const inDays = (days: number) => {
  const date = new Date();
  date.setDate(date.getDate() + days);
  return date.toLocaleDateString('sv-SE');
};

export function NewBatch() {
  const clients = useQuery(clientsQuery);
  const recipes = useQuery(recipesQuery);
  const failed = [clients, recipes].find((one) => one.isError);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!clients.data || !recipes.data) return <Loading what="clients and recipes" />;
  const ready = clients.data.some((client) => client.targets.length > 0) && recipes.data.length > 0;
  return (
    <Page title="Plan a batch">
      {ready ? (
        <BatchForm clients={clients.data} recipes={recipes.data} />
      ) : (
        <Empty title="A batch needs a recipe and a client with a target">
          <p className="mb-4">Make what is missing first, then come back.</p>
          <p className="flex justify-center gap-3">
            <Link to="/recipes/new" className={buttonClass('plain')}>
              New recipe
            </Link>
            <Link to="/clients/new" className={buttonClass('plain')}>
              New client
            </Link>
          </p>
        </Empty>
      )}
    </Page>
  );
}

/** What a new batch is cooked with; the form says so, and its Brief changes it. */
const SURE = 0.9;
const ON_TOP = 0.03;
const DRAFT = 'new-batch';
const MOST_DISHES = 12;

/** A dish as typed: its recipe, and containers by the id of a client's target. */
type DishDraft = { key: string; recipeId: string; counts: Record<string, string> };

const newDish = (recipeId: string): DishDraft => ({ key: crypto.randomUUID(), recipeId, counts: {} });

/** What was typed of the containers of a dish, in the order of typing; nothing typed is none. */
const eatersOf = (dish: DishDraft) =>
  Object.entries(dish.counts).flatMap(([target_id, text]) => {
    const { value } = readNumber(text);
    return value ? [{ target_id, count: value }] : [];
  });

function BatchForm({
  clients,
  recipes,
}: {
  clients: Schemas['ClientView'][];
  recipes: Schemas['RecipeBrief'][];
}) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const isHere = useIsHere();
  const house = useQuery(houseQuery);
  const [draft, setDraft, forget] = useDraft(DRAFT, () => ({
    // A name is proposed until one is typed.
    name: null as string | null,
    cookOn: inDays(1),
    dishes: [newDish(recipes[0]?.id ?? '')],
  }));
  const { cookOn, dishes } = draft;
  const change = (part: Partial<typeof draft>) => setDraft((now) => ({ ...now, ...part }));
  const changeDish = (key: string, part: Partial<DishDraft>) =>
    setDraft((now) => ({
      ...now,
      dishes: now.dishes.map((dish) => (dish.key === key ? { ...dish, ...part } : dish)),
    }));
  /** A recipe that uses what hurries is cooked: in the place of a dish that nobody eats yet, or beside the others. */
  const use = (recipeId: string) => {
    if (dishes.some((dish) => dish.recipeId === recipeId)) return;
    const open = dishes.find((dish) => eatersOf(dish).length === 0);
    if (open) changeDish(open.key, { recipeId });
    else if (dishes.length < MOST_DISHES) change({ dishes: [...dishes, newDish(recipeId)] });
  };
  const create = useMutation({
    mutationFn: (body: Schemas['BatchInput']) =>
      write(call('post', '/api/v1/batches', { body }), {
        about: 'batches',
        words: [`Batch ${body.name}`],
        href: '/batches/new',
        draft: { key: DRAFT, value: draft },
      }),
    onSuccess: (plan) => {
      forget();
      queries.setQueryData(planQuery(plan.batch.id).queryKey, plan);
      void queries.invalidateQueries({ queryKey: batchesQuery.queryKey });
      if (isHere.current) void navigate({ to: '/batches/$batchId', params: { batchId: plan.batch.id } });
      else toast.success(`${plan.batch.name} is planned.`);
    },
  });
  const recipeOf = (dish: DishDraft) => recipes.find((one) => one.id === dish.recipeId);
  const names = dishes.flatMap((dish) => recipeOf(dish)?.name ?? []);
  const proposed = [listed(names), cookOn && day(cookOn)].filter(Boolean).join(', ').slice(0, 200);
  const name = draft.name ?? proposed;
  const unreadable = dishes.some((dish) =>
    Object.values(dish.counts).some((text) => readNumber(text).fault !== null),
  );
  const total = dishes.reduce(
    (sum, dish) => sum + eatersOf(dish).reduce((containers, one) => containers + one.count, 0),
    0,
  );
  const problem = create.isError ? toProblem(create.error) : null;
  const faultAt = (pointer: string) => problem?.errors?.find((one) => one.pointer === pointer)?.message;
  const countFault = (dish: DishDraft, at: number, targetId: string) => {
    const place = eatersOf(dish).findIndex((one) => one.target_id === targetId);
    return place < 0 ? undefined : faultAt(`/dishes/${at}/eaters/${place}/count`);
  };

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (unreadable) return;
    create.mutate({
      name,
      cook_on: cookOn,
      dishes: dishes.map((dish) => ({ recipe_id: dish.recipeId, name: '', eaters: eatersOf(dish) })),
      step_g: 5,
      buffer_share: ON_TOP,
      sure_share: SURE,
    });
  };

  const placed = [
    '/name',
    '/cook_on',
    ...dishes.flatMap((dish, at) => [
      `/dishes/${at}/recipe_id`,
      ...eatersOf(dish).map((_, place) => `/dishes/${at}/eaters/${place}/count`),
    ]),
  ];
  return (
    <form onSubmit={submit} noValidate className="space-y-5">
      <div className="grid gap-4 sm:grid-cols-[1fr_200px]">
        <Field
          label="Name of the batch"
          value={name}
          onChange={(event) => change({ name: event.target.value })}
          fault={faultAt('/name')}
        />
        <Field
          label="Cook on"
          type="date"
          value={cookOn}
          onChange={(event) => change({ cookOn: event.target.value })}
          fault={faultAt('/cook_on')}
        />
      </div>
      <p className="text-sm text-muted">
        So much is cooked that each pot suffices {oddsWords(SURE)}, however its yield comes out, with{' '}
        {percent(ON_TOP)} on top for tasting and spill. The Brief of the batch changes both.
      </p>
      <UseUp
        useUp={(house.data?.use_up ?? []).filter((one) => one.use_by >= cookOn && one.recipes.length > 0)}
        onUse={use}
      />
      <div className="relative overflow-x-auto rounded-xl border border-steel bg-sheet">
        <table className="w-full">
          <caption className="sr-only">Who eats, and how many containers</caption>
          <thead>
            <tr className="align-top">
              <th scope="col" className="p-3 text-left font-normal">
                <span className="mb-3 block font-heading text-xl leading-tight font-bold">
                  Who eats, and how many containers
                </span>
                {dishes.length < MOST_DISHES ? (
                  <Button
                    onClick={() => change({ dishes: [...dishes, newDish(nextRecipe(recipes, dishes))] })}
                  >
                    Another dish
                  </Button>
                ) : null}
              </th>
              {dishes.map((dish, at) => (
                <th key={dish.key} scope="col" className="w-64 min-w-48 p-3 text-left font-normal">
                  <Choice
                    label={at === 0 ? 'Recipe' : `Recipe of dish ${at + 1}`}
                    value={dish.recipeId}
                    onValue={(recipeId) => changeDish(dish.key, { recipeId })}
                    options={recipes.map((one) => ({ value: one.id, label: one.name }))}
                    hint={recipeOf(dish)
                      ?.components.map((part) => part.name)
                      .join(', ')}
                    fault={faultAt(`/dishes/${at}/recipe_id`)}
                  />
                  {at > 0 ? (
                    <button
                      type="button"
                      className="min-h-9 text-sm underline"
                      onClick={() => change({ dishes: dishes.filter((one) => one.key !== dish.key) })}
                    >
                      Without this dish
                    </button>
                  ) : null}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {clients.flatMap((client) =>
              client.targets.map((target) => {
                const whose = `${client.name}, ${slotName(target.slot, target.day_type)}`;
                return (
                  <tr key={target.id} className="border-t border-steel align-top">
                    <th scope="row" className="px-3 py-2 text-left font-normal">
                      <span className="font-semibold">{client.name}</span>{' '}
                      <span className="text-muted">{slotName(target.slot, target.day_type)}</span>
                    </th>
                    {dishes.map((dish, at) => (
                      <td key={dish.key} className="px-3 py-1">
                        <Field
                          label={`Containers${at === 0 ? '' : ` of ${recipeOf(dish)?.name ?? 'this dish'}`} for ${whose}`}
                          hideLabel
                          unit="×"
                          inputMode="numeric"
                          placeholder="0"
                          value={dish.counts[target.id] ?? ''}
                          onChange={(event) =>
                            changeDish(dish.key, {
                              counts: { ...dish.counts, [target.id]: event.target.value },
                            })
                          }
                          fault={
                            readNumber(dish.counts[target.id] ?? '').fault ?? countFault(dish, at, target.id)
                          }
                        />
                        <AllergenWarning client={client} recipe={recipeOf(dish)} />
                      </td>
                    ))}
                  </tr>
                );
              }),
            )}
          </tbody>
        </table>
      </div>
      {problem ? <ProblemNotice problem={problem} placed={placed} /> : null}
      <div className="flex items-center gap-4">
        <Button type="submit" look="main" disabled={create.isPending || unreadable}>
          {create.isPending ? 'Planning …' : 'Make the plan'}
        </Button>
        <p className="text-muted">{plural(total, 'container')}</p>
      </div>
    </form>
  );
}

/** The first recipe that is no dish of the batch yet. */
const nextRecipe = (recipes: Schemas['RecipeBrief'][], dishes: DishDraft[]) =>
  (recipes.find((one) => !dishes.some((dish) => dish.recipeId === one.id)) ?? recipes[0])?.id ?? '';

function AllergenWarning({
  client,
  recipe,
}: {
  client: Schemas['ClientView'];
  recipe: Schemas['RecipeBrief'] | undefined;
}) {
  const hit = client.allergens.filter((one) => recipe?.allergens.includes(one));
  if (hit.length === 0) return null;
  return (
    <span className="block text-sm text-alert">
      avoids {hit.join(', ')}: components with it are left out of these containers
    </span>
  );
}
