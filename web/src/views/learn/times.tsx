import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { day, percent, plural } from '~/lib/format';
import { LoadFailed } from '~/parts/notice';
import { timesQuery } from '~/views/learn/queries';

/** How long steps take here against what was stated for them, and how fast people are. */
export function Times() {
  const found = useQuery(timesQuery);
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return null;
  const { steps, people } = found.data;
  return (
    <section aria-label="Minutes" className="mt-8">
      <h2 className="text-2xl">Minutes</h2>
      {steps.length === 0 ? (
        <p className="max-w-prose text-muted">
          Mark steps as done while you cook. From the first day on, how long they take here takes the place of
          the usual minutes, step by step.
        </p>
      ) : (
        <>
          <p className="mb-3 max-w-prose text-sm text-muted">
            A day or two lean on the stated minutes, many stand on their own; a mark set far too late or early
            hardly counts. The next order of work is planned with them.
          </p>
          {people.length ? (
            <ul aria-label="People" className="mb-4 flex flex-wrap gap-x-8 gap-y-1">
              {people.map((one) => (
                <li key={one.id}>
                  <b>{one.name}</b> takes <span className="figures">×{one.pace.toFixed(2)}</span> the usual
                  minutes
                  <span className="text-muted">
                    , stated ×{one.stated.toFixed(2)}, from {plural(one.tasks, 'step')}
                  </span>
                </li>
              ))}
            </ul>
          ) : null}
          <ul className="grid gap-4 xl:grid-cols-2">
            {steps.map((one) => (
              <StepTime key={one.key} step={one} />
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function StepTime({ step }: { step: Schemas['StepTimeView'] }) {
  return (
    <li className="rounded-xl border border-steel bg-sheet p-4">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h3 className="text-lg first-letter:uppercase">{step.says}</h3>
        <p className="figures text-2xl font-bold">×{step.factor.toFixed(2)}</p>
      </div>
      <p className="text-sm text-muted">
        The stated minutes still make {percent(Math.round(step.stated_share * 100) / 100)} of that.
      </p>
      <details className="mt-1 text-sm">
        <summary className="min-h-8">
          {step.took.length === 1 ? 'Measured once' : `Measured ${step.took.length} times`}
        </summary>
        <table className="w-full">
          <tbody>
            {step.took.map((one) => (
              <tr key={`${one.happened_at} ${one.batch} ${one.took_min}`} className="border-t border-steel">
                <td className="py-1">{day(one.happened_at)}</td>
                <td>{one.batch}</td>
                <td>{one.person}</td>
                <td className="figures text-right">
                  {one.took_min} min, stated {one.planned_min} min
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </li>
  );
}
