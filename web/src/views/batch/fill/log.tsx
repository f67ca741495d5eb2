import { useQuery } from '@tanstack/react-query';
import { moment, weight } from '~/lib/format';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { LoadFailed, Loading } from '~/parts/notice';
import { fillLogQuery } from '~/views/batch/fill/queries';

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
    <Overlaid open onOpenChange={onClose} wide="page" title="What was noted">
      {found.isError ? (
        <LoadFailed error={found.error} retry={() => void found.refetch()} />
      ) : !found.data ? (
        <Loading what="what was noted" />
      ) : found.data.length === 0 ? (
        <p className="text-muted">Nothing is filled yet.</p>
      ) : (
        <ol aria-label="Notes" className="divide-y divide-steel border-y border-steel">
          {found.data.map((one) => (
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
      <div className="mt-4 flex justify-end">
        <Close>
          <Button look="main">Done</Button>
        </Close>
      </div>
    </Overlaid>
  );
}
