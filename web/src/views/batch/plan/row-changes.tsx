import { plural } from '~/lib/format';
import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import type { Row } from '~/views/batch/plan/columns';
import { dishOf, partsOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';

/** What these containers take of each group of their dish. */
export function Choose({ plan, row, desk }: { plan: Plan; row: Row; desk: PlanDesk }) {
  const dish = dishOf(plan, row);
  if (!dish?.groups.length) return null;
  const barred = new Set(row.cells.flatMap((cell) => (cell.left_out.length ? [cell.component_id] : [])));
  const toggle = (id: string, group: string, takes: number) =>
    void desk.act((now) => {
      const chosen = now.rows.find((one) => one.id === row.id)?.chosen ?? row.chosen;
      if (chosen.includes(id))
        return [{ kind: 'choice', row_id: row.id, chosen: chosen.filter((one) => one !== id) }];
      const others = partsOf(now, dish).filter((part) => part.group === group && chosen.includes(part.id));
      // One more than the group gives takes the place of the first.
      const dropped = others.length >= takes ? others[0]?.id : undefined;
      return [{ kind: 'choice', row_id: row.id, chosen: [...chosen.filter((one) => one !== dropped), id] }];
    });
  return (
    <section aria-label="Choices" className="space-y-1">
      {dish.groups.map((group) => (
        <fieldset key={group.name}>
          <legend className="font-medium">
            {group.takes} of {group.name}
          </legend>
          {partsOf(plan, dish)
            .filter((part) => part.group === group.name)
            .map((part) =>
              barred.has(part.id) ? (
                <p key={part.id} className="py-1 text-sm text-muted">
                  {part.name}: must not go in
                </p>
              ) : (
                <Tick
                  key={part.id}
                  label={part.name}
                  checked={row.chosen.includes(part.id)}
                  onChange={() => toggle(part.id, group.name, group.takes)}
                />
              ),
            )}
        </fieldset>
      ))}
    </section>
  );
}

/** What is left out for a client can be cooked apart for them, in a pot of its own that comes first. */
export function Apart({ row, name, desk }: { row: Row; name: (id: string) => string; desk: PlanDesk }) {
  const left = row.cells.filter((cell) => cell.left_out.length > 0);
  return left.map((cell) => (
    <Button
      key={cell.component_id}
      className="w-full"
      onClick={() =>
        void desk.act(() => [{ kind: 'apart', component_id: cell.component_id, row_ids: [row.id] }])
      }
    >
      Cook {name(cell.component_id)} apart for {row.client}
    </Button>
  ));
}

/** Some of the containers as a line of their own, two lines in one, or the containers out of the batch. */
export function Lines({
  plan,
  row,
  desk,
  onClose,
}: {
  plan: Plan;
  row: Row;
  desk: PlanDesk;
  onClose: () => void;
}) {
  const alike = plan.rows.filter(
    (other) =>
      other.id !== row.id &&
      other.dish_id === row.dish_id &&
      other.client_id === row.client_id &&
      other.slot === row.slot &&
      other.day_type === row.day_type,
  );
  const theirs = plan.rows.filter((other) => other.client_id === row.client_id);
  const leave = async (change: Parameters<PlanDesk['act']>[0]) => {
    await desk.act(change);
    onClose();
  };
  return (
    <details className="text-sm">
      <summary className="min-h-9 font-medium">Split, put together, take out</summary>
      <div className="space-y-2">
        {row.count > 1 ? (
          <InlineNumber
            of={`${row.id}/split`}
            label="Make a line of its own of"
            unit="containers"
            value={null}
            onCommit={async (count) =>
              count === null
                ? null
                : desk.change(() => [{ kind: 'split-row', row_id: row.id, count: Number(count) }])
            }
          />
        ) : null}
        {alike.map((other) => (
          <Button
            key={other.id}
            className="w-full"
            onClick={() => void leave(() => [{ kind: 'merge-row', row_id: row.id, into_row_id: other.id }])}
          >
            Put together with the {plural(other.count, 'container')} of {other.client}
          </Button>
        ))}
        <Button
          className="w-full"
          onClick={() => void leave(() => [{ kind: 'remove-row', row_id: row.id, removed: true }])}
        >
          Take these containers out
        </Button>
        {theirs.length > 1 ? (
          <Button
            className="w-full"
            onClick={() =>
              void leave((now) =>
                now.rows
                  .filter((other) => other.client_id === row.client_id)
                  .map((other) => ({ kind: 'remove-row', row_id: other.id, removed: true })),
              )
            }
          >
            Cancel all {theirs.length} lines of {row.client}
          </Button>
        ) : null}
      </div>
    </details>
  );
}
