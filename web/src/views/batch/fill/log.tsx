import { useQuery } from '@tanstack/react-query';
import { moment, weight } from '~/lib/format';
import { fillLogQuery } from '~/views/batch/fill/queries';
import { Told } from '~/views/batch/fill/told';

/** What was noted at the scale, the newest first: by whom, when, and whether it still counts. */
export function FillLog({
  batchId,
  facts,
  onClose,
}: {
  batchId: string;
  facts: number;
  onClose: () => void;
}) {
  const found = useQuery(fillLogQuery(batchId, facts));
  return (
    <Told
      title="What was noted"
      what="what was noted"
      found={found}
      isEmpty={(notes) => notes.length === 0}
      onClose={onClose}
    >
      {(notes) => (
        <ol aria-label="Notes" className="divide-y divide-steel border-y border-steel">
          {notes.map((one) => (
            <li key={one.id} className="flex flex-wrap items-baseline gap-x-4 py-1">
              <span className="w-36 text-sm text-muted">{moment(one.happened_at)}</span>
              <span className={`min-w-64 flex-1 ${one.state ? 'text-muted' : ''}`}>
                {one.place ? <b>{one.place}: </b> : null}
                {one.what}
                {one.asked_g === null ? '' : `, ${weight(one.asked_g)} asked`}
                {one.text ? `: ${one.text}` : ''}
                {one.state ? <b> ({one.state})</b> : null}
              </span>
              <span className="text-sm text-muted">
                {one.made_by}
                {one.device ? `, ${one.device}` : ''}
                {moment(one.arrived_at) === moment(one.happened_at)
                  ? ''
                  : `, handed in ${moment(one.arrived_at)}`}
              </span>
            </li>
          ))}
        </ol>
      )}
    </Told>
  );
}
