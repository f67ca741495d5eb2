import type { Plan } from '~/views/batch/frame/use-plan';
import type { Row } from '~/views/batch/plan/columns';

/** A line of the plan: the containers of one meal, or all of a client's folded into one. */
export type Line =
  | { kind: 'row'; row: Row; first: boolean; siblings: number }
  | { kind: 'folded'; clientId: string; client: string; rows: Row[] };

export const isOff = (row: Row) =>
  row.count > 0 && row.gauges.some((gauge) => gauge.miss !== 0 || !gauge.known);

/** The lines in the order of the plan, each client's together where they stand. */
export function linesOf(plan: Plan, folded: Set<string>, onlyOff: boolean): Line[] {
  const groups: Row[][] = [];
  for (const row of plan.rows) {
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

export const clientOf = (line: Line) => (line.kind === 'folded' ? line.clientId : line.row.client_id);

export const keyOf = (line: Line | undefined) =>
  line === undefined ? '' : line.kind === 'folded' ? `folded ${line.clientId}` : line.row.id;
