import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { type Schemas, toProblem } from '~/api/client';
import { EnergyWords } from '~/food/energy-words';
import { Composition } from '~/food/macros';
import { allergensQuery, foodQuery } from '~/food/queries';
import { day, energyWithUnit, exactWeight, percent, price, yieldWords } from '~/lib/format';
import { useTypedForm } from '~/lib/use-typed-form';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Refused } from '~/parts/form-fields';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { type SupplyDraft, supplyDraft, supplyInput } from '~/views/pantry/draft';
import { Contradictions, LabelAudit } from '~/views/pantry/label-outcome';
import { SupplyFields } from '~/views/pantry/supply-fields';

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
      <div className="flex flex-wrap gap-2">
        {food.own ? (
          <Link to="/pantry/$foodId" params={{ foodId: food.id }} className={buttonClass()}>
            Edit
          </Link>
        ) : null}
        <Link to="/pantry/new" search={{ copy: food.id }} className={buttonClass()}>
          Copy with own values
        </Link>
      </div>
      <Contradictions told={detail.contradictions} />
      {detail.audit?.words ? <LabelAudit audit={detail.audit} /> : null}
      {food.weak ? (
        <Notice tone="caution" title="Weak figures">
          No public table in reach holds this food as sold. Replace them by the pack’s label.
        </Notice>
      ) : null}
      <Composition amounts={food.per_100g} caption="100 g edible hold" />
      <p className="text-sm text-muted">
        <EnergyWords />
        {detail.stated_kcal === null
          ? ''
          : ` The source itself states ${energyWithUnit(detail.stated_kcal)}, by its own rule.`}
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
                <span className="figures font-semibold whitespace-nowrap">{exactWeight(measure.grams)}</span>
              </li>
            ))}
          </ul>
        </section>
      ) : null}

      <Supply id={id} detail={found.data} />

      {detail.used_in.length ? <p className="text-sm">Used in {detail.used_in.join(', ')}</p> : null}

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

const packOf = ({ grams, sold }: Schemas['PackView']) =>
  sold === 'by weight'
    ? `by weight, priced for ${exactWeight(grams)}`
    : `${sold === 'by the piece' ? 'by the piece, about ' : ''}${exactWeight(grams)}`;

/** This kitchen's own measures and packs of the food. */
function Supply({ id, detail }: { id: string; detail: Schemas['FoodDetail'] }) {
  const [open, setOpen] = useState(false);
  return (
    <section>
      <h3 className="mb-1 text-lg">Packs</h3>
      {detail.packs.map((pack) => (
        <p
          key={pack.name + pack.grams + pack.shop}
          className="flex justify-between border-t border-steel py-1 text-sm"
        >
          <span>
            {pack.name}, {packOf(pack)}
            {pack.drained_g === null ? '' : `, drained ${exactWeight(pack.drained_g)}`}
            {pack.shop ? `, ${pack.shop}` : ''}
            {pack.price === null ? null : (
              <span className="text-muted">
                {pack.seen_on ? `, seen on ${day(pack.seen_on)}` : ', nobody noted when it was seen'}
              </span>
            )}
          </span>
          <span className="figures">
            {pack.price === null ? '' : price(pack.price)}
            {pack.price_per_100g === null ? '' : ` (${price(pack.price_per_100g)} per 100 g)`}
          </span>
        </p>
      ))}
      {open ? (
        <SupplyForm id={id} detail={detail} onClose={() => setOpen(false)} />
      ) : (
        <Button onClick={() => setOpen(true)}>Own measures and packs</Button>
      )}
    </section>
  );
}

function SupplyForm({
  id,
  detail,
  onClose,
}: {
  id: string;
  detail: Schemas['FoodDetail'];
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const form = useTypedForm({ initial: supplyDraft(detail), toInput: supplyInput });
  const save = useMutation({
    mutationFn: (draft: SupplyDraft) =>
      write(
        call('put', '/api/v1/foods/{food_id}/supply', {
          params: { path: { food_id: id } },
          body: supplyInput(draft).body,
        }),
        {
          about: `supply/${id}`,
          words: [`Measures and packs of ${detail.food.name}`],
          href: `/pantry?food=${id}`,
        },
      ),
    onSuccess: (fresh) => {
      queries.setQueryData(foodQuery(id).queryKey, fresh);
      onClose();
    },
  });
  return (
    <Refused value={save.isError ? toProblem(save.error) : null}>
      <form
        noValidate
        className="mt-2 space-y-3"
        onSubmit={(event) => void form.handleSubmit((draft) => save.mutate(draft))(event)}
      >
        <SupplyFields narrow form={form} />
        <div className="flex gap-2">
          <Button type="submit" look="main" disabled={save.isPending || form.isUnreadable}>
            Save
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Refused>
  );
}
