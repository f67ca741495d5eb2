import { useState } from 'react';
import { stepOf } from '~/lib/schools';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type Column, isShut, type Row } from '~/views/batch/plan/columns';
import { partOf } from '~/views/batch/plan/dishes';

/** Grams that were nudged and that the server has not answered yet, by row and component: keys are never waited for. */
export type Ahead = Map<string, { grams: number; waiting: number }>;

export const aheadKey = (rowId: string, componentId: string) => `${rowId}/${componentId}`;

export function useAhead() {
  const [ahead, setAhead] = useState<Ahead>(new Map());
  const step = (plan: Plan, row: Row, column: Column, direction: 1 | -1, done: Promise<unknown>) => {
    if (column.kind !== 'cell') return;
    const key = aheadKey(row.id, column.componentId);
    const cell = row.cells.find((one) => one.component_id === column.componentId);
    if (!cell || isShut(cell)) return;
    const size = stepOf(partOf(plan, row, column.componentId), plan.batch.step_g);
    setAhead((all) => {
      const before = all.get(key);
      const grams = (Math.round((before?.grams ?? cell.grams) / size) + direction) * size;
      const waiting = (before?.waiting ?? 0) + 1;
      return new Map(all).set(key, { grams: Math.max(grams, 0), waiting });
    });
    void done.finally(() =>
      setAhead((all) => {
        const before = all.get(key);
        const rest = new Map(all);
        if (!before || before.waiting <= 1) rest.delete(key);
        else rest.set(key, { ...before, waiting: before.waiting - 1 });
        return rest;
      }),
    );
  };
  return [ahead, step] as const;
}
