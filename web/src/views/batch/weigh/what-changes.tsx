import { useEffect } from 'react';
import { plural, signed, weight } from '~/lib/format';
import { massShown, massUnit } from '~/lib/units';
import type { Change, Plan } from '~/views/batch/frame/use-plan';
import { usePreview } from '~/views/batch/frame/use-preview';

/** What a weight would change in the plan, before it is recorded. */
export function WhatChanges({ plan, change }: { plan: Plan; change: Change | null }) {
  const preview = usePreview(plan.batch.id);
  const key = change === null ? '' : JSON.stringify(change);
  const { show, end } = preview;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the weight is another
  useEffect(() => {
    if (change) void show(plan.batch.version, [change], true);
    else void end();
  }, [key, plan.batch.version]);
  if (!change || !preview.plan || change.kind !== 'weigh') return null;
  const [before, after] = [plan, preview.plan];
  const pot = after.components.find((one) => one.id === change.component_id);
  const moved = movesOf(before, after, change.component_id);
  const [inside, was, all] = [insideOf(after), insideOf(before), countOf(after)];
  return (
    <div
      role="status"
      className="mt-2 rounded-lg border border-l-4 border-steel border-l-ochre bg-sheet px-3 py-2 text-sm"
    >
      <p className="font-bold">What this weight changes</p>
      {pot ? (
        <p>
          {pot.spare_g < -1
            ? `${weight(-pot.spare_g)} short of what the containers take`
            : `${weight(Math.max(pot.spare_g, 0))} left over`}
        </p>
      ) : null}
      <p>
        {moved.count === 0
          ? 'No container gets another amount of it.'
          : `${plural(moved.count, 'container')} get${moved.count === 1 ? 's' : ''} another amount of it, ${rangeWords(moved.least, moved.most)}.`}
      </p>
      <p>
        {inside} of {all} inside their bands{inside === was ? '' : `, now ${was}`}.
      </p>
    </div>
  );
}

const rangeWords = (least: number, most: number) => {
  const [one, other] = [signed(massShown(least)), signed(massShown(most))];
  return `${one === other ? one : `${one} to ${other}`} ${massUnit()}`;
};

const countOf = (plan: Plan) => plan.rows.reduce((sum, row) => sum + row.count, 0);
const insideOf = (plan: Plan) =>
  plan.rows
    .filter((row) => row.gauges.every((gauge) => gauge.miss === 0))
    .reduce((sum, row) => sum + row.count, 0);

function movesOf(before: Plan, after: Plan, componentId: string) {
  const gramsOf = (row: Plan['rows'][number] | undefined) =>
    row?.cells.find((cell) => cell.component_id === componentId)?.grams ?? 0;
  const moves = after.rows
    .map((row) => ({
      count: row.count,
      by: gramsOf(row) - gramsOf(before.rows.find((one) => one.id === row.id)),
    }))
    .filter(({ count, by }) => count > 0 && Math.abs(by) >= 0.5);
  return {
    count: moves.reduce((sum, { count }) => sum + count, 0),
    least: Math.min(...moves.map(({ by }) => by)),
    most: Math.max(...moves.map(({ by }) => by)),
  };
}
