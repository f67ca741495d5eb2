import { queryOptions, useQuery } from '@tanstack/react-query';
import { createContext, use } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { price } from '~/lib/format';

/** What a batch costs by one version of its plan; what is in the house, and prices, may be newer each time. */
export const costsQuery = (id: string, version: number | undefined, stated?: number) =>
  queryOptions({
    queryKey: ['plans', id, 'costs', version, stated ?? null],
    enabled: version !== undefined,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/costs', {
          params: { path: { batch_id: id }, query: stated === undefined ? {} : { stated } },
        }),
      ),
  });

type RowCosts = ReadonlyMap<string, Schemas['RowCost']>;

/** What the containers of each class cost, where that is shown; null where it is not. */
export const CostsShown = createContext<RowCosts | null>(null);

/** The costs of a batch by its container classes, once they are wanted. */
export function useRowCosts(id: string, version: number, wanted: boolean): RowCosts | null {
  const costs = useQuery({
    ...costsQuery(id, version),
    enabled: wanted,
    placeholderData: (before) => before,
  });
  return wanted && costs.data ? new Map(costs.data.rows.map((row) => [row.row_id, row])) : null;
}

/** What one container of a class costs to the nearest hundredth; "" where it is not shown. */
export function useCostOf(rowId: string) {
  const row = use(CostsShown)?.get(rowId);
  return row === undefined || row.count === 0 ? '' : price(row.cost / row.count);
}

/** "€3.27", or "€3.26 to €3.27" where they cannot all cost the same to the last digit. */
export const eachWords = ({ each_low: low, each_high: high }: Schemas['RowCost']) =>
  low === high ? price(low) : `${price(low)} to ${price(high)}`;

type Gauge = Schemas['GaugeView'];

/** How a container stands to its budget; nothing where there is none. */
export const budgetOf = (row: { gauges: Gauge[] }) => row.gauges.find((one) => one.nutrient === 'cost');

/** "costs €3.18 of at most €3.20", with what is left out of it. */
export function budgetWords({ amount, target, miss, at_least: isFloor }: Gauge) {
  const over = miss > 0 ? `, ${price(miss)} over` : '';
  const without = isFloor ? ', without what nobody priced' : '';
  return `costs ${price(amount)} of at most ${price(target)}${over}${without}`;
}
