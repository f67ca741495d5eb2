import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { DayTable } from '~/food/day-table';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { planDaysQuery } from '~/views/batch/frame/queries';
import type { Plan } from '~/views/batch/frame/use-plan';

/** Each client's kinds of day: the containers of this batch, the meals it does not hold, and extras, against the day. */
export function DaysView({ plan }: { plan: Plan }) {
  const days = useQuery(planDaysQuery(plan.batch.id, plan.batch.version));
  if (days.isError) return <LoadFailed error={days.error} retry={() => void days.refetch()} />;
  if (!days.data) return <Loading what="the days" />;
  if (days.data.length === 0) {
    return (
      <Empty title="No whole day is set">
        <p>
          Open a client of this batch and add a whole day: what it shall hold in all, and what is eaten
          outside the containers.
        </p>
      </Empty>
    );
  }
  return (
    <ul className="grid items-start gap-4 lg:grid-cols-2">
      {days.data.map((day) => (
        <li key={`${day.client_id} ${day.day_type}`} className="rounded-xl border border-steel bg-sheet p-4">
          <h2 className="text-xl">
            {day.client_id ? (
              <Link
                to="/clients/$clientId"
                params={{ clientId: day.client_id }}
                className="underline-offset-4 hover:underline"
              >
                {day.client}
              </Link>
            ) : (
              day.client
            )}
            {day.day_type === 'any' ? '' : `, ${day.day_type} day`}
          </h2>
          <DayTable day={day} />
        </li>
      ))}
    </ul>
  );
}
