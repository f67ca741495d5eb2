import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { type ReactNode, useState } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { currencyUnit, plural, price, slotName, weight } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { Button, buttonClass } from '~/parts/button';
import { Field } from '~/parts/field';
import { LoadFailed } from '~/parts/notice';
import { Why } from '~/parts/why';
import { costsQuery, eachWords } from '~/views/batch/frame/costs';
import type { PlanDesk } from '~/views/batch/frame/use-plan';

type Costs = Schemas['CostView'];
type Section = { batchId: string; version: number; desk: PlanDesk };

/** What a batch costs: by container, client, component and food; what is left over, and what would make it cheaper. */
export function CostSection({ budget, ...of }: Section & { budget: number | null }) {
  const { batchId, version } = of;
  const [stated, setStated] = useState('');
  const said = readNumber(stated);
  const costs = useQuery({
    ...costsQuery(batchId, version, said.value ?? undefined),
    placeholderData: (before) => before,
  });
  if (costs.isError) return <LoadFailed error={costs.error} retry={() => void costs.refetch()} />;
  if (!costs.data) return null;
  const found = costs.data;
  return (
    <section aria-label="What it costs" className="print:hidden mb-8">
      <h2 className="text-xl">What it costs</h2>
      {found.per_container === null || found.used === 0 ? (
        <p className="text-muted">
          No price is known yet: give foods their packs and prices in the pantry, or say what was paid for
          what is in the house.
        </p>
      ) : (
        <>
          <p className="mt-1">
            <span className="figures text-2xl font-bold">{price(found.per_container)}</span>{' '}
            <span className="text-muted">
              a container{found.without_price.length ? ', of what is priced' : ''};{' '}
              {found.per_100g_protein === null ? '' : `${price(found.per_100g_protein)} for 100 g of protein`}
            </span>
          </p>
          {budget === null ? null : (
            <p className="text-sm text-muted">
              The plan holds a container to {price(budget)} by the packs that it takes; here what is in the
              house counts as it was paid for.
            </p>
          )}
          {found.without_price.length ? (
            <p className="text-sm text-muted">Without a price: {found.without_price.join(', ')}.</p>
          ) : null}
          <div className="mt-3 grid items-start gap-6 lg:grid-cols-2">
            <Sums costs={found} />
            <ByClient costs={found} />
          </div>
          <div className="mt-4 max-w-md">
            <Field
              label="What do you say a container costs?"
              hint={found.check || 'It is multiplied back to what the batch costs.'}
              unit={currencyUnit()}
              inputMode="decimal"
              value={stated}
              onChange={(event) => setStated(event.target.value)}
              fault={said.fault}
            />
          </div>
        </>
      )}
      <Cheaper {...of} />
    </section>
  );
}

function Sums({ costs }: { costs: Costs }) {
  return (
    <table aria-label="From packs to containers" className="w-full">
      <tbody>
        <Sum name="Packs to buy" value={costs.paid} />
        <Sum name="Of them left over, for the house" value={-costs.left} />
        <Sum name="From what is in the house" value={costs.from_house} />
        <Sum name="Cooked" value={costs.used} isSum>
          {costs.foods
            .filter((food) => food.used > 0)
            .map((food) => (
              <Sum key={food.food_id} name={`${food.name}, ${weight(food.grams)}`} value={food.used} />
            ))}
        </Sum>
        <Sum name="Spare, in no container" value={-costs.spare} />
        <Sum name="In containers" value={costs.in_containers} isSum>
          {costs.components
            .filter((component) => component.cost > 0)
            .map((component) => (
              <Sum
                key={component.component_id}
                name={`${component.name}${component.per_100g === null ? '' : `, ${price(component.per_100g)} for 100 g`}`}
                value={component.cost}
              />
            ))}
        </Sum>
      </tbody>
    </table>
  );
}

function Sum({
  name,
  value,
  isSum = false,
  children,
}: {
  name: string;
  value: number;
  isSum?: boolean;
  /** What it adds up from. */
  children?: ReactNode;
}) {
  const figure = `${value < 0 ? '−' : ''}${price(Math.abs(value))}`;
  return (
    <tr className={isSum ? 'border-t-2 border-edge font-semibold' : 'border-t border-steel'}>
      <th scope="row" className={`py-1 text-left ${isSum ? '' : 'font-normal'}`}>
        {name}
      </th>
      <td className="figures py-1 text-right">
        {children ? (
          <Why label={name} figure={figure}>
            <table className="w-full">
              <tbody>{children}</tbody>
            </table>
          </Why>
        ) : (
          figure
        )}
      </td>
    </tr>
  );
}

function ByClient({ costs }: { costs: Costs }) {
  return (
    <table aria-label="By client" className="w-full">
      <tbody>
        {costs.clients.map((client) => (
          <tr key={client.client_id} className="border-t border-steel">
            <th scope="row" className="py-1 text-left font-normal">
              {client.name}{' '}
              <span className="text-sm text-muted">{plural(client.containers, 'container')}</span>
            </th>
            <td className="figures py-1 text-right">
              <Why label={client.name} figure={price(client.cost)}>
                <table className="w-full">
                  <tbody>
                    {costs.rows
                      .filter((row) => row.client_id === client.client_id)
                      .map((row) => (
                        <tr key={row.row_id} className="border-t border-steel">
                          <th scope="row" className="py-1 text-left font-normal">
                            {row.count} × {row.dish}, {slotName(row.slot, row.day_type)}
                            <span className="block text-muted">{eachWords(row)} each</span>
                          </th>
                          <td className="figures py-1 text-right">{price(row.cost)}</td>
                        </tr>
                      ))}
                  </tbody>
                </table>
              </Why>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Ways that were solved before they are told; asked for, since each is a plan of its own. */
function Cheaper({ batchId, version, desk }: Section) {
  const [asked, setAsked] = useState(false);
  const ways = useQuery({
    queryKey: ['plans', batchId, 'cheaper', version],
    enabled: asked,
    queryFn: () =>
      ask(api.GET('/api/v1/batches/{batch_id}/cheaper', { params: { path: { batch_id: batchId } } })),
  });
  return (
    <div className="mt-4">
      {ways.data ? (
        ways.data.length ? (
          <ul aria-label="Cheaper ways" className="max-w-2xl divide-y divide-steel border-y border-steel">
            {ways.data.map((way) => (
              <li key={way.title} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-4 py-2">
                <span>
                  <strong>{way.title}</strong>
                  <span className="block text-sm text-muted">{way.detail}</span>
                </span>
                <span className="text-right">
                  <span className="figures block">{price(way.saving)} less</span>
                  <TakeIt way={way} batchId={batchId} desk={desk} />
                </span>
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-muted">
            No cheaper food or component of which a price is known keeps every container at its target, no pot
            can do with a pack fewer, and no pack is shared with another batch.
          </p>
        )
      ) : (
        <Button
          disabled={asked && !ways.isError}
          onClick={() => (asked ? void ways.refetch() : setAsked(true))}
        >
          {asked && !ways.isError
            ? 'Trying other foods and components in the plan …'
            : 'What would make it cheaper?'}
        </Button>
      )}
      {ways.isError ? <LoadFailed error={ways.error} retry={() => void ways.refetch()} /> : null}
    </div>
  );
}

/** Takes a way: the plan is made anew with it, or the other batch is bought for too. */
function TakeIt({ way, batchId, desk }: { way: Schemas['CheaperView']; batchId: string; desk: PlanDesk }) {
  const other = way.with_id;
  if (other)
    return (
      <Link
        to="/batches/$batchId/shop"
        params={{ batchId }}
        search={(now) => ({ ...now, with: [...new Set([...(now.with ?? []), other])] })}
        className={`${buttonClass()} mt-1`}
      >
        Buy together
      </Link>
    );
  return (
    <Button className="mt-1" onClick={() => void desk.act(() => way.changes)}>
      Take it
    </Button>
  );
}
