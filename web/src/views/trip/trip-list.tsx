import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { moment, price } from '~/lib/format';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { tripsQuery } from '~/views/trip/queries';

/** The trips to the shops: those that are going on first, large enough to be found with one hand. */
export function TripList() {
  const trips = useQuery(tripsQuery);
  if (trips.isError) return <LoadFailed error={trips.error} retry={() => void trips.refetch()} />;
  if (!trips.data) return <Loading what="the lists" />;
  return (
    <Page title="Shopping">
      {trips.data.length === 0 ? (
        <Empty title="Nobody is shopping">
          <p>A trip begins on the list of a batch, with “Go shopping”. It stands here then.</p>
        </Empty>
      ) : (
        <ul className="divide-y divide-steel border-y border-steel">
          {trips.data.map((trip) => (
            <li key={trip.id}>
              <Link
                to="/trips/$tripId"
                params={{ tripId: trip.id }}
                className="block min-h-16 px-1 py-3 hover:bg-bench"
              >
                <span className={trip.finished_at ? 'text-muted' : 'text-lg font-semibold'}>
                  {trip.batches.map((one) => one.name).join(' and ')}
                </span>
                <span className="block text-sm text-muted">
                  {trip.finished_at
                    ? `bought on ${moment(trip.finished_at)}${trip.paid === null ? '' : `, ${price(trip.paid)}`}`
                    : `going on, begun by ${trip.started_by} on ${moment(trip.started_at)}`}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </Page>
  );
}
