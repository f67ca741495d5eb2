import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useEffect, useState } from 'react';
import { slotName } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { Panel } from '~/views/batch/frame/panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { type Dish, groupWords, partsOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';
import { clientsQuery } from '~/views/clients/queries';
import { recipesQuery } from '~/views/recipes/queries';

type Props = { plan: Plan; dish: Dish; desk: PlanDesk; onClose: () => void };

const dishChange = (dish: Dish) => ({
  kind: 'dish' as const,
  dish_id: dish.id,
  name: dish.name,
  groups: Object.fromEntries(dish.groups.map((group) => [group.name, group.takes])),
});

/** One dish of the batch: its name and groups, who else eats it, what else is in it, choices of its containers. */
export function DishPanel({ plan, dish, desk, onClose }: Props) {
  const closed = plan.batch.packed_at !== null;
  const remove = async () => {
    await desk.act(() => [{ kind: 'remove-dish', dish_id: dish.id, removed: true }]);
    onClose();
  };
  return (
    <Panel title={dish.name} detail={groupWords(dish) || `from ${dish.recipe}`} onClose={onClose}>
      {closed ? null : (
        <>
          <NameForm key={dish.name} dish={dish} desk={desk} />
          {dish.groups.length ? <Choices plan={plan} dish={dish} desk={desk} /> : null}
          <People plan={plan} dish={dish} desk={desk} />
          <OtherComponents plan={plan} dish={dish} desk={desk} />
          <Groups dish={dish} desk={desk} />
          {plan.dishes.length > 1 ? (
            <Button className="w-full" onClick={() => void remove()}>
              Take {dish.name} out of the batch
            </Button>
          ) : null}
        </>
      )}
    </Panel>
  );
}

type Part = { dish: Dish; desk: PlanDesk };

const dishIn = (plan: Plan, dish: Dish) => plan.dishes.find((one) => one.id === dish.id) ?? dish;

function NameForm({ dish, desk }: Part) {
  const [name, setName] = useState(dish.name);
  const [fault, setFault] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const problem = await desk.change((now) => [{ ...dishChange(dishIn(now, dish)), name }]);
    setFault(problem?.errors?.[0]?.message ?? problem?.detail ?? null);
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-2">
      <Field
        label="Name of the dish"
        value={name}
        onChange={(event) => setName(event.target.value)}
        fault={fault}
      />
      {name === dish.name ? null : <Button type="submit">Rename</Button>}
    </form>
  );
}

/** Every container of the dish gets its parts of the groups: as various as can be, or the same for all. */
function Choices({ dish, desk }: Part & { plan: Plan }) {
  const spread = (same: boolean) =>
    void desk.act(() => [{ kind: 'spread', dish_id: dish.id, client_id: null, same }]);
  return (
    <section aria-label="Choices" className="space-y-2">
      <h3 className="text-lg">Choices</h3>
      <p className="text-sm text-muted">
        Each client’s targets come first, then what they do not like, then variety. What must not go in never
        does.
      </p>
      <Button className="w-full" onClick={() => spread(false)}>
        Spread the choices
      </Button>
      <Button className="w-full" onClick={() => spread(true)}>
        The same for every container
      </Button>
    </section>
  );
}

/** Clients' targets that the dish has no containers for yet. */
function People({ plan, dish, desk }: Part & { plan: Plan }) {
  const clients = useQuery(clientsQuery);
  const here = new Set(
    plan.rows
      .filter((row) => row.dish_id === dish.id)
      .map((row) => `${row.client_id} ${row.slot} ${row.day_type}`),
  );
  const open = (clients.data ?? []).flatMap((client) =>
    client.targets
      .filter((target) => !here.has(`${client.id} ${target.slot} ${target.day_type}`))
      .map((target) => ({ client, target })),
  );
  return (
    <details>
      <summary className="min-h-9 font-heading text-lg font-bold">Add people</summary>
      <ul className="space-y-2 pt-1">
        {open.map(({ client, target }) => (
          <li key={target.id}>
            <InlineNumber
              of={`${dish.id}/${target.id}`}
              label={`${client.name}, ${slotName(target.slot, target.day_type)}`}
              unit="containers"
              value={null}
              onCommit={async (count) =>
                count === null
                  ? null
                  : desk.change(() => [
                      { kind: 'add-row', dish_id: dish.id, target_id: target.id, count: Number(count) },
                    ])
              }
            />
          </li>
        ))}
        {open.length === 0 ? (
          <li className="text-sm text-muted">Everyone with a target has containers of it.</li>
        ) : null}
      </ul>
    </details>
  );
}

/** A component of a recipe, or one that the batch cooks for another dish anyway. */
function OtherComponents({ plan, dish, desk }: Part & { plan: Plan }) {
  const recipes = useQuery(recipesQuery);
  const mine = new Set(partsOf(plan, dish).map((part) => part.id));
  const options = [
    { value: '', label: 'choose one' },
    ...plan.components
      .filter((component) => !mine.has(component.id))
      .map((component) => ({ value: `pot ${component.id}`, label: `${component.name}, cooked anyway` })),
    ...(recipes.data ?? []).flatMap((recipe) =>
      recipe.components.map((component) => ({
        value: `recipe ${component.id}`,
        label: `${component.name} of ${recipe.name}`,
      })),
    ),
  ];
  const add = (chosen: string) => {
    const [from, id] = chosen.split(' ');
    if (!id) return;
    void desk.act(() => [
      from === 'pot'
        ? { kind: 'add-part', dish_id: dish.id, component_id: id, recipe_component_id: null }
        : { kind: 'add-part', dish_id: dish.id, component_id: null, recipe_component_id: id },
    ]);
  };
  return <Choice label="Add a component" options={options} value="" onValue={add} />;
}

/** Of how many parts of a group a container takes some. */
function Groups({ dish, desk }: Part) {
  const [name, setName] = useState('');
  const [takes, setTakes] = useState('1');
  const [fault, setFault] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const typed = readNumber(takes);
    if (typed.fault || !name.trim()) {
      setFault(typed.fault ?? 'Give the group a name: grain, sauce.');
      return;
    }
    const problem = await desk.change((now) => {
      const change = dishChange(dishIn(now, dish));
      return [{ ...change, groups: { ...change.groups, [name.trim()]: typed.value ?? 1 } }];
    });
    setFault(problem?.errors?.[0]?.message ?? problem?.detail ?? null);
    if (!problem) setName('');
  };
  return (
    <details>
      <summary className="min-h-9 font-heading text-lg font-bold">Groups</summary>
      <p className="pb-2 text-sm text-muted">
        Of a group a container takes one or some: one grain of two. Put parts into it in their own panels.
      </p>
      <ul className="space-y-2">
        {dish.groups.map((group) => (
          <li key={group.name}>
            <InlineNumber
              of={`${dish.id}/${group.name}`}
              label={`Of ${group.name} a container takes`}
              unit="parts"
              value={group.takes}
              onCommit={(value) =>
                desk.change((now) => {
                  const { [group.name]: _, ...others } = dishChange(dishIn(now, dish)).groups;
                  const groups = value === null ? others : { ...others, [group.name]: Number(value) };
                  return [{ ...dishChange(dishIn(now, dish)), groups }];
                })
              }
            />
          </li>
        ))}
      </ul>
      <form
        onSubmit={(event) => void submit(event)}
        className="mt-2 grid grid-cols-[1fr_84px] items-end gap-2"
      >
        <Field
          label="New group"
          value={name}
          onChange={(event) => setName(event.target.value)}
          fault={fault}
        />
        <Field
          label="takes"
          value={takes}
          inputMode="numeric"
          onChange={(event) => setTakes(event.target.value)}
        />
        <Button type="submit" className="col-span-2">
          Add the group
        </Button>
      </form>
    </details>
  );
}

/** A recipe as one more dish of the batch. */
export function AddDishPanel({
  plan,
  desk,
  onClose,
  onDish,
}: {
  plan: Plan;
  desk: PlanDesk;
  onClose: () => void;
  onDish: (id: string) => void;
}) {
  const recipes = useQuery(recipesQuery);
  const [recipeId, setRecipeId] = useState('');
  // The dishes there were before this one, taken once: what is new since is told by them.
  const [known] = useState(() => new Set(plan.dishes.map((dish) => dish.id)));
  const [added, setAdded] = useState(false);
  const fresh = added ? plan.dishes.find((dish) => !known.has(dish.id))?.id : undefined;
  useEffect(() => {
    if (fresh) onDish(fresh);
  }, [fresh, onDish]);
  const add = async () => {
    const problem = await desk.change(() => [
      { kind: 'add-dish', recipe_id: recipeId, name: '', eaters: [] },
    ]);
    if (!problem) setAdded(true);
  };
  return (
    <Panel title="Add a dish" detail="its components come into the batch" onClose={onClose}>
      <Choice
        label="Recipe"
        options={[
          { value: '', label: 'choose one' },
          ...(recipes.data ?? []).map((recipe) => ({ value: recipe.id, label: recipe.name })),
        ]}
        value={recipeId}
        onValue={setRecipeId}
      />
      <Button look="main" className="w-full" disabled={!recipeId} onClick={() => void add()}>
        Add it
      </Button>
    </Panel>
  );
}
