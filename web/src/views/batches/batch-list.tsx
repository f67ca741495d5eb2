import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useRights } from '~/api/session';
import { day, plural } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { OpenedPlan, OpenPlan, useOpenPlan } from '~/views/batches/open-plan';
import { batchesQuery } from '~/views/batches/queries';
import { ToCook } from '~/views/batches/to-cook';

export function BatchList() {
  const batches = useQuery(batchesQuery);
  const opening = useOpenPlan();
  const { isCoach } = useRights();
  if (batches.isError) return <LoadFailed error={batches.error} retry={() => void batches.refetch()} />;
  if (!batches.data) return <Loading what="the batches" />;
  if (!isCoach) return <ToCook batches={batches.data} />;
  return (
    <Page
      title="Batches"
      detail={plural(batches.data.length, 'batch', 'batches')}
      actions={
        <>
          <OpenPlan opening={opening} />
          <Link to="/batches/new" className={buttonClass('main')}>
            Plan a batch
          </Link>
        </>
      }
    >
      <OpenedPlan opening={opening} />
      {batches.data.length === 0 ? (
        <Empty title="No batch yet">
          <p>A batch is one cooking of a recipe for some clients. Choose both, and the grams follow.</p>
        </Empty>
      ) : (
        <div className="relative overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="bg-bench text-left text-sm text-muted">
                <th className="p-3 font-medium">Batch</th>
                <th className="p-3 font-medium">Cook on</th>
                <th className="p-3 text-right font-medium">Clients</th>
                <th className="p-3 text-right font-medium">Containers</th>
                <th className="p-3 text-right font-medium">Weighed</th>
                <th className="p-3 font-medium">Next</th>
              </tr>
            </thead>
            <tbody>
              {batches.data.map((batch) => (
                <tr
                  key={batch.id}
                  className={`border-b border-steel bg-sheet hover:bg-chosen ${batch.put_away_at ? 'text-muted' : ''}`}
                >
                  <th scope="row" className="p-0 text-left">
                    <Link
                      to="/batches/$batchId"
                      params={{ batchId: batch.id }}
                      className="block min-h-11 p-3 text-lg font-semibold underline-offset-4 hover:underline"
                    >
                      {batch.name}
                      <span className="block text-sm font-normal text-muted">{batch.dishes.join(', ')}</span>
                    </Link>
                  </th>
                  <td className="p-3 whitespace-nowrap">{day(batch.cook_on)}</td>
                  <td className="figures p-3 text-right">{batch.clients}</td>
                  <td className="figures p-3 text-right">{batch.containers}</td>
                  <td className="figures p-3 text-right whitespace-nowrap">
                    {batch.weighed} of {batch.components}
                  </td>
                  <td className="p-3">{batch.put_away_at ? 'Put away' : batch.next_step}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Page>
  );
}
