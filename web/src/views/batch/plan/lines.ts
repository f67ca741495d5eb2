import type { Plan } from '~/views/batch/frame/use-plan';
import type { Row } from '~/views/batch/plan/columns';
import type { Dish } from '~/views/batch/plan/dishes';

/**
 * A line of the plan: the containers of one meal, all of a client's folded into one, or, where there are several dishes,
 * the head of a dish and what its containers take together.
 */
export type Line =
  | { kind: 'row'; row: Row; first: boolean; siblings: number }
  | { kind: 'folded'; clientId: string; client: string; rows: Row[] }
  | { kind: 'dish'; dish: Dish; rows: Row[]; folded: boolean }
  | { kind: 'totals'; dish: Dish; rows: Row[] };

export const isOff = (row: Row) =>
  row.count > 0 && row.gauges.some((gauge) => gauge.miss !== 0 || !gauge.known);

/** The lines dish by dish, each client's together where they stand; `folded` are clients and dishes by their ids. */
export function linesOf(plan: Plan, folded: Set<string>, onlyOff: boolean): Line[] {
  if (plan.dishes.length === 1) return rowLines(plan.rows, folded, onlyOff);
  return plan.dishes.flatMap((dish): Line[] => {
    const rows = plan.rows.filter((row) => row.dish_id === dish.id);
    const isFolded = folded.has(dish.id);
    const head: Line = { kind: 'dish', dish, rows, folded: isFolded };
    if (isFolded) return [head];
    return [head, ...rowLines(rows, folded, onlyOff), { kind: 'totals', dish, rows }];
  });
}

function rowLines(all: Row[], folded: Set<string>, onlyOff: boolean): Line[] {
  const groups: Row[][] = [];
  for (const row of all) {
    if (onlyOff && !isOff(row)) continue;
    const last = groups.at(-1);
    if (last?.[0]?.client_id === row.client_id) last.push(row);
    else groups.push([row]);
  }
  return groups.flatMap((rows): Line[] => {
    const [head] = rows;
    if (head && rows.length > 1 && folded.has(head.client_id))
      return [{ kind: 'folded', clientId: head.client_id, client: head.client, rows }];
    return rows.map((row, place) => ({ kind: 'row', row, first: place === 0, siblings: rows.length }));
  });
}

/** Clients with several lines, which can be folded. */
export function foldable(plan: Plan): Set<string> {
  const seen = new Map<string, number>();
  for (const row of plan.rows) seen.set(row.client_id, (seen.get(row.client_id) ?? 0) + 1);
  return new Set([...seen].flatMap(([id, count]) => (count > 1 ? [id] : [])));
}

/** Lines that one can be on with the keys. */
export const isWalkable = (line: Line | undefined) => line?.kind === 'row' || line?.kind === 'folded';

/** Whose line it is: a client's, by their id; none of the head of a dish. */
export const clientOf = (line: Line) =>
  line.kind === 'folded' ? line.clientId : line.kind === 'row' ? line.row.client_id : null;

export const keyOf = (line: Line | undefined) => {
  if (line === undefined) return '';
  if (line.kind === 'row') return line.row.id;
  return line.kind === 'folded'
    ? `folded ${line.clientId} ${line.rows[0]?.id ?? ''}`
    : `${line.kind} ${line.dish.id}`;
};
