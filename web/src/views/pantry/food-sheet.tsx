import { useQuery } from '@tanstack/react-query';
import { exactGrams, grams, percent, yieldWords } from '~/lib/format';
import { allergensQuery, foodQuery } from '~/lib/queries';
import { Composition } from '~/parts/macros';
import { LoadFailed, Loading, Notice } from '~/parts/notice';

/** Everything known of one food. */
export function FoodSheet({ id, onOpen }: { id: string; onOpen: (id: string) => void }) {
  const found = useQuery(foodQuery(id));
  const allergens = useQuery(allergensQuery);
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Loading what="the food" />;
  const { food, ...detail } = found.data;
  return (
    <article className="space-y-5 rounded-xl border border-steel bg-sheet p-5">
      <header>
        <h2 className="text-[22px]">{food.name}</h2>
        <p className="text-muted">
          {food.state}
          {food.method ? `, ${food.method}` : ''}; {food.group}
        </p>
        {food.allergens.length ? (
          <p className="mt-1">
            Contains <strong>{food.allergens.map((one) => allergens.data?.[one] ?? one).join(', ')}</strong>
          </p>
        ) : null}
      </header>
      {food.weak ? (
        <Notice tone="caution" title="Weak figures">
          No public table in reach holds this food as sold. Replace them by the pack’s label.
        </Notice>
      ) : null}
      <Composition amounts={food.per_100g} caption="100 g edible hold" />
      <p className="text-sm text-muted">
        Energy by 4/9/4 and 7 for alcohol.
        {detail.stated_kcal === null
          ? ''
          : ` The source itself states ${grams(detail.stated_kcal)} kcal, by its own rule.`}
      </p>

      {detail.yields.length ? (
        <section>
          <h3 className="mb-1 text-lg">Yields to expect</h3>
          <table className="w-full text-sm">
            <thead className="sr-only">
              <tr>
                <th>Method</th>
                <th>Expected</th>
                <th>Range and source</th>
              </tr>
            </thead>
            <tbody>
              {detail.yields.map(({ method, of_group, expected }) => (
                <tr key={method} className="border-t border-steel align-top">
                  <th scope="row" className="py-1.5 pr-2 text-left font-medium">
                    {method}
                  </th>
                  <td className="py-1.5 pr-2 whitespace-nowrap">
                    <span className="figures font-semibold">× {expected.expected.toFixed(2)}</span>
                    <span className="block text-muted">{yieldWords(expected.expected)}</span>
                  </td>
                  <td className="py-1.5 text-muted">
                    <span className="figures">
                      {expected.low.toFixed(2)} to {expected.high.toFixed(2)}
                    </span>
                    , {of_group ? 'default of its group' : expected.source}
                    {expected.note ? `: ${expected.note}` : ''}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ) : null}

      {detail.edible.length ? (
        <section>
          <h3 className="mb-1 text-lg">What goes off</h3>
          {detail.edible.map((one) => (
            <p key={one.note + one.source} className="text-sm">
              <span className="figures font-semibold">{percent(one.refuse_share)}</span>{' '}
              {one.note || 'as usually bought'} <span className="text-muted">({one.source})</span>
            </p>
          ))}
          <p className="text-sm text-muted">Offered in a recipe, never taken off silently.</p>
        </section>
      ) : null}

      {detail.measures.length ? (
        <section>
          <h3 className="mb-1 text-lg">Household measures</h3>
          <ul className="text-sm">
            {detail.measures.map((measure) => (
              <li
                key={measure.name + measure.grams}
                className="flex justify-between gap-3 border-t border-steel py-1"
              >
                <span>
                  {measure.name}
                  {measure.note ? <span className="text-muted"> ({measure.note})</span> : null}
                </span>
                <span className="figures font-semibold whitespace-nowrap">{exactGrams(measure.grams)} g</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}

      {detail.other_states.length ? (
        <section>
          <h3 className="mb-1 text-lg">The same food</h3>
          <ul>
            {detail.other_states.map((other) => (
              <li key={other.id}>
                <button
                  type="button"
                  className="min-h-9 text-left underline"
                  onClick={() => onOpen(other.id)}
                >
                  {other.name}, {other.state}
                  {other.method ? `, ${other.method}` : ''}
                </button>
              </li>
            ))}
          </ul>
        </section>
      ) : null}

      <footer className="text-sm text-muted">
        <p>
          Source: {detail.source}. {detail.source_detail}
        </p>
        {detail.note ? <p>{detail.note}</p> : null}
      </footer>
    </article>
  );
}
