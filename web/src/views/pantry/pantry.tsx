import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { useDeferredValue, useState } from 'react';
import type { Schemas } from '~/api/client';
import { MacroName, macroFigure } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { foodsQuery } from '~/food/queries';
import { plural } from '~/lib/format';
import { Button, buttonClass } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { FoodSheet } from '~/views/pantry/food-sheet';
import { facetsQuery } from '~/views/pantry/queries';
import type { PantrySearch } from '~/views/pantry/search';

const PAGE = 60;

export function Pantry() {
  const search = useSearch({ from: '/inside/pantry' });
  const navigate = useNavigate();
  const [limit, setLimit] = useState(PAGE);
  const facets = useQuery(facetsQuery);
  const wanted = useDeferredValue({
    text: search.text ?? '',
    group: search.group,
    state: search.state,
    limit,
  });
  const foods = useQuery(foodsQuery(wanted));
  const set = (part: PantrySearch) => {
    setLimit(PAGE);
    void navigate({ to: '/pantry', search: { ...search, ...part }, replace: true });
  };
  const options = (all: string, counts: Record<string, number> | undefined) => [
    { value: '', label: all },
    ...Object.entries(counts ?? {}).map(([value, count]) => ({ value, label: `${value} (${count})` })),
  ];
  return (
    <Page
      title="Pantry"
      detail={foods.data ? plural(foods.data.total, 'food') : ''}
      actions={
        <>
          <Link to="/house" className={buttonClass()}>
            In the house
          </Link>
          <Link to="/pantry/import" className={buttonClass()}>
            Import a CSV
          </Link>
          <Link to="/pantry/new" className={buttonClass('main')}>
            New food
          </Link>
        </>
      }
    >
      <div className="grid gap-4 md:grid-cols-[2fr_1fr_1fr]">
        <Field
          label="Food"
          type="search"
          placeholder="chicken thigh, bulgur, courgette"
          value={search.text ?? ''}
          onChange={(event) => set({ text: event.target.value })}
        />
        <Choice
          label="Group"
          value={search.group ?? ''}
          onValue={(chosen) => set({ group: chosen })}
          options={options('all groups', facets.data?.groups)}
        />
        <Choice
          label="State"
          value={search.state ?? ''}
          onValue={(chosen) => set({ state: chosen })}
          options={options('all states', facets.data?.states)}
        />
      </div>
      <div className="mt-4 grid items-start gap-5 lg:grid-cols-[minmax(0,1fr)_360px]">
        {foods.isError ? (
          <LoadFailed error={foods.error} retry={() => void foods.refetch()} />
        ) : foods.data ? (
          <div className="min-w-0">
            <FoodTable
              foods={foods.data.foods}
              chosen={search.food}
              onChoose={(food) => set({ ...search, food })}
            />
            {foods.data.total > foods.data.foods.length ? (
              <Button className="mt-3" onClick={() => setLimit(limit + 200)}>
                Show more of {foods.data.total}
              </Button>
            ) : null}
            {foods.data.total === 0 ? (
              <Empty title="No food fits">
                <p>Try fewer letters, another name, or all groups and states.</p>
              </Empty>
            ) : null}
          </div>
        ) : (
          <Loading what="the foods" />
        )}
        <aside aria-label="Chosen food" className="sticky top-4 max-h-[calc(100vh-2rem)] overflow-y-auto">
          {search.food ? (
            <FoodSheet id={search.food} onOpen={(food) => set({ food })} />
          ) : (
            <p className="rounded-xl border border-dashed border-edge p-6 text-muted">
              Choose a food to see what 100 g hold, what it yields by each method, its measures and where the
              figures come from.
            </p>
          )}
        </aside>
      </div>
    </Page>
  );
}

function FoodTable({
  foods,
  chosen,
  onChoose,
}: {
  foods: Schemas['FoodBrief'][];
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) {
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full">
        <thead>
          <tr className="bg-bench text-left text-sm text-muted">
            <th className="px-3 py-2 font-medium">Per 100 g edible</th>
            {MACRO_KEYS.map((key) => (
              <th key={key} className="px-3 py-2 text-right font-medium">
                <MacroName of={key} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {foods.map((food) => (
            <tr
              key={food.id}
              className={`border-b border-steel ${food.id === chosen ? 'bg-chosen' : 'bg-sheet'}`}
            >
              <th scope="row" className="p-0 text-left font-normal">
                <button
                  type="button"
                  aria-pressed={food.id === chosen}
                  onClick={() => onChoose(food.id)}
                  className="min-h-11 w-full px-3 py-1.5 text-left underline-offset-4 hover:underline"
                >
                  <span className="font-semibold">{food.name}</span>{' '}
                  <span className="text-muted">
                    {food.state}
                    {food.method ? `, ${food.method}` : ''}
                  </span>
                  {food.own ? <span className="ml-2 rounded bg-bench px-1 text-xs">own</span> : null}
                  {food.weak ? (
                    <span className="ml-2 rounded border border-edge px-1 text-xs">weak figures</span>
                  ) : null}
                </button>
              </th>
              {MACRO_KEYS.map((key) => (
                <td key={key} className="figures px-3 text-right whitespace-nowrap">
                  {macroFigure(food.per_100g, key)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
