import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import type { FormEvent } from 'react';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { day, plural, slotName } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
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

const DRAFT = 'new-batch';

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
  const [draft, setDraft, forget] = useDraft(DRAFT, () => ({
    // A name is proposed until one is typed.
    name: null as string | null,
    recipeId: recipes[0]?.id ?? '',
    cookOn: inDays(1),
    counts: {} as Record<string, string>,
  }));
  const { recipeId, cookOn, counts } = draft;
  const change = (part: Partial<typeof draft>) => setDraft((now) => ({ ...now, ...part }));
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
  const recipe = recipes.find((one) => one.id === recipeId);
  const proposed = recipe ? [recipe.name, cookOn && day(cookOn)].filter(Boolean).join(', ') : '';
  const name = draft.name ?? proposed;
  const typed = Object.entries(counts).map(([target_id, text]) => ({ target_id, ...readNumber(text) }));
  const unreadable = typed.some((one) => one.fault !== null);
  const eaters = typed.flatMap(({ target_id, value }) => (value ? [{ target_id, count: value }] : []));
  const total = eaters.reduce((sum, one) => sum + one.count, 0);
  const problem = create.isError ? toProblem(create.error) : null;
  const faultAt = (pointer: string) => problem?.errors?.find((one) => one.pointer === pointer)?.message;
  const countFault = (targetId: string) => {
    const place = eaters.findIndex((one) => one.target_id === targetId);
    return place < 0 ? undefined : faultAt(`/eaters/${place}/count`);
  };

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (unreadable) return;
    create.mutate({ name, recipe_id: recipeId, cook_on: cookOn, eaters, step_g: 5, buffer_share: 0.03 });
  };

  return (
    <form onSubmit={submit} noValidate className="space-y-5">
      <div className="grid gap-4 sm:grid-cols-3">
        <Field
          label="Name of the batch"
          value={name}
          onChange={(event) => change({ name: event.target.value })}
          fault={faultAt('/name')}
        />
        <Choice
          label="Recipe"
          value={recipeId}
          onValue={(chosen) => change({ recipeId: chosen })}
          options={recipes.map((one) => ({ value: one.id, label: one.name }))}
          hint={recipe?.components.map((part) => part.name).join(', ')}
          fault={faultAt('/recipe_id')}
        />
        <Field
          label="Cook on"
          type="date"
          value={cookOn}
          onChange={(event) => change({ cookOn: event.target.value })}
          fault={faultAt('/cook_on')}
        />
      </div>
      <fieldset>
        <legend className="mb-2 font-heading text-xl font-bold">Who eats, and how many containers</legend>
        <ul className="grid gap-x-6 border-t border-steel lg:grid-cols-2">
          {clients.flatMap((client) =>
            client.targets.map((target) => (
              <li
                key={target.id}
                className="grid grid-cols-[1fr_132px] items-center gap-4 border-b border-steel py-2"
              >
                <span>
                  <span className="font-semibold">{client.name}</span>{' '}
                  <span className="text-muted">{slotName(target.slot, target.day_type)}</span>
                  <AllergenWarning client={client} recipe={recipe} />
                </span>
                <Field
                  label={`Containers for ${client.name}, ${slotName(target.slot, target.day_type)}`}
                  hideLabel
                  unit="×"
                  inputMode="numeric"
                  placeholder="0"
                  value={counts[target.id] ?? ''}
                  onChange={(event) => change({ counts: { ...counts, [target.id]: event.target.value } })}
                  fault={readNumber(counts[target.id] ?? '').fault ?? countFault(target.id)}
                />
              </li>
            )),
          )}
        </ul>
      </fieldset>
      {problem ? (
        <ProblemNotice
          problem={problem}
          placed={['/name', '/recipe_id', '/cook_on', ...eaters.map((_, place) => `/eaters/${place}/count`)]}
        />
      ) : null}
      <div className="flex items-center gap-4">
        <Button type="submit" look="main" disabled={create.isPending || unreadable}>
          {create.isPending ? 'Planning …' : 'Make the plan'}
        </Button>
        <p className="text-muted">{plural(total, 'container')}</p>
      </div>
    </form>
  );
}

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
