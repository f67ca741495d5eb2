import { Link } from '@tanstack/react-router';
import type { Schemas } from '~/api/client';
import { day, plural } from '~/lib/format';
import { Empty } from '~/parts/notice';
import { Page } from '~/parts/page';

/** The batches of a helper who cooks: those that are not packed, large enough to be found with one hand. */
export function ToCook({ batches }: { batches: Schemas['BatchBrief'][] }) {
  const open = batches.filter((batch) => !batch.packed_at && !batch.put_away_at);
  return (
    <Page title="Cooking">
      {open.length === 0 ? (
        <Empty title="Nothing to cook">
          <p>What the coach plans stands here until it is packed.</p>
        </Empty>
      ) : (
        <ul className="divide-y divide-steel border-y border-steel">
          {open.map((batch) => (
            <li key={batch.id}>
              <Link
                to="/batches/$batchId/cook"
                params={{ batchId: batch.id }}
                className="block min-h-16 px-1 py-3 hover:bg-bench"
              >
                <span className="text-lg font-semibold">{batch.name}</span>
                <span className="block text-sm text-muted">
                  {day(batch.cook_on)}, {plural(batch.containers, 'container')}, {batch.weighed} of{' '}
                  {plural(batch.components, 'pot')} weighed
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
