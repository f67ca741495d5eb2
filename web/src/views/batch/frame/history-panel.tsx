import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { moment, plural } from '~/lib/format';
import { Button } from '~/parts/button';
import { LoadFailed, Loading } from '~/parts/notice';
import { Panel } from '~/views/batch/frame/panel';
import { historyQuery } from '~/views/batch/frame/queries';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';

const FIRST = 50;
const ALL = 10_000;

/** Who changed what of a batch, and when; what still counts can be taken back. */
export function HistoryPanel({ plan, desk, onClose }: { plan: Plan; desk: PlanDesk; onClose: () => void }) {
  const [limit, setLimit] = useState(FIRST);
  const history = useQuery(historyQuery(plan.batch.id, plan.batch.version, limit));
  if (history.isError && !history.data)
    return <LoadFailed error={history.error} retry={() => void history.refetch()} />;
  if (!history.data) return <Loading what="the history" />;
  const { commands, earlier } = history.data;
  return (
    <Panel title="History" detail="the newest first" onClose={onClose}>
      {commands.length === 0 ? <p className="text-sm">Nothing was changed yet.</p> : null}
      <ol aria-label="Changes" className="divide-y divide-steel">
        {commands.map((command) => (
          <Entry
            key={command.id}
            command={command}
            onTakeBack={
              command.can_undo && plan.batch.packed_at === null
                ? () =>
                    void desk.takeBack({ id: command.id, by: command.by, own: false, words: command.words })
                : null
            }
          />
        ))}
      </ol>
      {earlier > 0 ? (
        <Button className="w-full" onClick={() => setLimit(ALL)}>
          Show {plural(earlier, 'earlier change')}
        </Button>
      ) : null}
    </Panel>
  );
}

function Entry({
  command,
  onTakeBack,
}: {
  command: Schemas['CommandView'];
  onTakeBack: (() => void) | null;
}) {
  const { undone_by: undoneBy, undoes, words } = command;
  return (
    <li className="py-2 first:pt-0">
      <p className="text-sm text-muted">
        <span className="figures">{command.number}</span> · {command.by}
        {command.device ? `, ${command.device}` : ''}
        <br />
        <time dateTime={command.made_at}>{moment(command.made_at)}</time>
        {command.happened_at ? `; happened ${moment(command.happened_at)}` : ''}
      </p>
      {undoes === null ? null : <p className="text-sm">Takes number {undoes} back:</p>}
      <ul className={undoneBy === null ? '' : 'text-muted line-through'}>
        {words.map((one) => (
          <li key={one} className="first-letter:uppercase">
            {one}
          </li>
        ))}
      </ul>
      {undoneBy === null ? null : <p className="text-sm text-muted">Taken back by {undoneBy}.</p>}
      {onTakeBack ? (
        <button type="button" className="min-h-9 text-sm underline" onClick={onTakeBack}>
          Take number {command.number} back
        </button>
      ) : null}
    </li>
  );
}
