import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { waysQuery } from '~/views/batch/frame/queries';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import type { Row } from '~/views/batch/plan/columns';

/** Changes that would let this container meet its target, each already tried by computation; one tap takes one. */
export function WaysOut({ plan, row, desk }: { plan: Plan; row: Row; desk: PlanDesk }) {
  const missed = row.gauges.some((gauge) => gauge.miss !== 0) && plan.batch.packed_at === null;
  const ways = useQuery({ ...waysQuery(plan.batch.id, row.id, plan.batch.version), enabled: missed });
  if (!missed) return null;
  const settle = plan.to_settle.find((one) => one.row_id === row.id);
  return (
    <section aria-label="Ways out" className="space-y-2">
      <h3 className="text-lg">Ways out</h3>
      {settle ? <p className="text-sm text-muted">{settle.detail}</p> : null}
      {ways.isPending ? <p className="text-sm text-muted">Trying them …</p> : null}
      {ways.isError ? (
        <Notice tone="alert">
          They could not be computed.{' '}
          <button type="button" className="min-h-9 underline" onClick={() => void ways.refetch()}>
            Try again
          </button>
        </Notice>
      ) : null}
      {ways.data?.length === 0 ? (
        <p className="text-sm">No single change meets this target. Change two limits, or the target.</p>
      ) : null}
      <ul className="space-y-2">
        {ways.data?.map((way) => (
          <li key={way.title}>
            {way.changes.length ? (
              <Button
                className="w-full !items-start !justify-start !whitespace-normal py-2 text-left"
                onClick={() => {
                  void desk
                    .change(() => way.changes)
                    .then((problem) => (problem?.type === 'invalid' ? toast.error(problem.detail) : null));
                }}
              >
                <span>
                  <span className="block leading-snug font-semibold">{way.title}</span>
                  <span className="block text-sm font-normal text-muted">{way.detail}</span>
                </span>
              </Button>
            ) : (
              <p className="rounded-lg border border-dashed border-steel px-4 py-2">
                <span className="block leading-snug font-semibold">{way.title}</span>
                <span className="block text-sm text-muted">{way.detail}</span>
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
