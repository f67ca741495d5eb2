import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { Schemas } from '~/api/client';
import { day, plural } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { batchesQuery } from '~/views/batches/queries';

export function Today() {
  const batches = useQuery(batchesQuery);
  if (batches.isError) return <LoadFailed error={batches.error} retry={() => void batches.refetch()} />;
  if (!batches.data) return <Loading what="today" />;
  const open = batches.data.filter((batch) => batch.packed_at === null);
  const packed = batches.data.filter((batch) => batch.packed_at !== null).slice(0, 4);
  return (
    <Page
      title="Today"
      detail={day(new Date().toISOString())}
      actions={
        <Link to="/batches/new" className={buttonClass('main')}>
          Plan a batch
        </Link>
      }
    >
      {open.length === 0 ? (
        <Empty title="Nothing is waiting">
          <p>Plan a batch from a recipe and your clients’ targets, and what is next for it stands here.</p>
        </Empty>
      ) : (
        <ul className="space-y-4">
          {open.map((batch) => (
            <NextStep key={batch.id} batch={batch} />
          ))}
        </ul>
      )}
      {packed.length > 0 ? (
        <section className="mt-8">
          <h2 className="mb-2 text-xl">Packed lately</h2>
          <ul className="divide-y divide-steel border-y border-steel">
            {packed.map((batch) => (
              <li key={batch.id}>
                <Link
                  to="/batches/$batchId"
                  params={{ batchId: batch.id }}
                  className="flex min-h-12 flex-wrap items-center justify-between gap-x-6 px-1 hover:bg-bench"
                >
                  <span className="font-semibold">{batch.name}</span>
                  <span className="text-muted">
                    {day(batch.cook_on)}, {plural(batch.containers, 'container')} for{' '}
                    {plural(batch.clients, 'client')}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
          <p className="mt-2 max-w-prose text-sm text-muted">
            Cooked food keeps 3 days at 5 °C or below, cooked rice 1 day unless cooled fast; freeze what is
            eaten later. General guidance: your local rules come first.
          </p>
        </section>
      ) : null}
    </Page>
  );
}

function NextStep({ batch }: { batch: Schemas['BatchBrief'] }) {
  return (
    <li className="grid gap-x-8 gap-y-3 rounded-xl border border-steel bg-sheet p-5 sm:grid-cols-[1fr_auto]">
      <div>
        <p className="text-muted">
          {batch.name}, {day(batch.cook_on)}
        </p>
        <h2 className="mt-1 text-[28px]">{batch.next_step}</h2>
        <p className="mt-2 text-muted">
          {batch.dishes.join(', ')}: {plural(batch.containers, 'container')} for{' '}
          {plural(batch.clients, 'client')}, {batch.weighed} of {plural(batch.components, 'component')}{' '}
          weighed
        </p>
      </div>
      <div className="self-center">
        <Link to="/batches/$batchId" params={{ batchId: batch.id }} className={buttonClass('main')}>
          Open the plan
        </Link>
      </div>
    </li>
  );
}
