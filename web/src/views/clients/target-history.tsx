import { useQuery } from '@tanstack/react-query';
import { moment } from '~/lib/format';
import { LoadFailed } from '~/parts/notice';
import { targetHistoryQuery } from '~/views/clients/queries';

/** What the targets were and when they changed. Batches keep the targets they were planned for. */
export function TargetHistory({ id, version }: { id: string; version: number }) {
  const history = useQuery(targetHistoryQuery(id, version));
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-xl">What the targets were</h2>
      <p className="mb-3 max-w-prose text-sm text-muted">
        A change counts from its day on: batches keep the targets they were planned for.
      </p>
      {history.isError ? <LoadFailed error={history.error} retry={() => void history.refetch()} /> : null}
      <ol className="max-w-3xl">
        {history.data?.map((one) => (
          <li key={one.since} className="border-t border-steel py-2">
            <p className="text-sm text-muted">
              Since {moment(one.since)}, by {one.changed_by}
            </p>
            {one.lines.map((line) => (
              <p key={line}>{line}</p>
            ))}
          </li>
        ))}
      </ol>
    </section>
  );
}
