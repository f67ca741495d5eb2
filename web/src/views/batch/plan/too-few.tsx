import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { deviceName } from '~/lib/device';
import { plural, slotName, wholeNumber } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { containersOf, rowIn } from '~/views/batch/plan/columns';
import { batchContainersQuery } from '~/views/containers/queries';

type Lack = Schemas['LackView'];

/** More portions than there are containers of their size: what lacks, and what to do about it. */
export function TooFew({ plan, desk, onRow }: { plan: Plan; desk: PlanDesk; onRow: (id: string) => void }) {
  const found = useQuery(batchContainersQuery(plan.batch.id, plan.batch.version)).data;
  if (!found || plan.batch.packed_at !== null) return null;
  return (
    <>
      {found.lacking.map((lack) => (
        <Notice
          key={lack.row_id}
          tone="alert"
          title={`${plural(lack.lacks, 'container')} too few: ${lack.client}, ${slotName(lack.slot, lack.day_type)}`}
        >
          <p className="mb-2">
            {lack.now} of {lack.count}
            {lack.capacity_ml === null
              ? ` find one that holds ${wholeNumber(lack.volume_ml)} ml; nobody set a size, so any that does is assumed.`
              : ` of ${wholeNumber(lack.capacity_ml)} ml are in the house.`}
          </p>
          <Ways lack={lack} plan={plan} desk={desk} onRow={onRow} />
        </Notice>
      ))}
      {found.later ? (
        <Notice tone="caution" title={`${plural(found.later, 'container')} packed another day`}>
          <p>
            {found.bulk
              .map((one) =>
                one.days === null
                  ? `${one.name} keeps without end`
                  : `${one.name} keeps ${plural(one.days, 'day')} in bulk`,
              )
              .join(', ')}
            . Fill says what stays, and how it is cooled.
          </p>
        </Notice>
      ) : null}
    </>
  );
}

/** The smallest ones that hold it: who wants another one finds it in the row. */
const MOST_OFFERED = 2;

function Ways({
  lack,
  plan,
  desk,
  onRow,
}: {
  lack: Lack;
  plan: Plan;
  desk: PlanDesk;
  onRow: (id: string) => void;
}) {
  const queries = useQueryClient();
  const about = `filling ${plan.batch.id}`;
  const keep = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/batches/{batch_id}/filling/facts', {
          params: { path: { batch_id: plan.batch.id } },
          body: {
            id: crypto.randomUUID(),
            event: 'kept in bulk',
            row_id: lack.row_id,
            container: lack.bulk_from,
            grams: 0,
            text: '',
            version: plan.batch.version,
            device: deviceName(),
            happened_at: new Date().toISOString(),
          },
        }),
        { about, words: [`${lack.client}: the rest in bulk`], href: `/batches/${plan.batch.id}` },
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['containers'] }),
    onError: showProblem,
  });
  const row = plan.rows.find((one) => one.id === lack.row_id);
  const enough = lack.larger.filter((one) => one.free >= lack.count).slice(0, MOST_OFFERED);
  const others = lack.larger.filter((one) => one.free < lack.count);
  return (
    <div className="space-y-2">
      {enough.map((one) => (
        <Button
          key={one.kind_id}
          className="w-full !whitespace-normal"
          onClick={() =>
            row && void desk.act((now) => [{ ...containersOf(rowIn(now, row)), capacity_ml: one.ml }])
          }
        >
          Take {one.name}, {wholeNumber(one.ml)} ml: {one.free} are free
        </Button>
      ))}
      <Button className="w-full !whitespace-normal" disabled={keep.isPending} onClick={() => keep.mutate()}>
        {lack.now ? `Pack ${lack.now} now, keep the rest in bulk` : 'Keep all of it in bulk for another day'}
      </Button>
      <Button className="w-full !whitespace-normal" onClick={() => onRow(lack.row_id)}>
        Fewer, or cooked another day
      </Button>
      {lack.away ? (
        <p className="text-sm">
          {plural(lack.away, 'container')} of this size {lack.away === 1 ? 'is' : 'are'} out with clients and
          could come back.
        </p>
      ) : null}
      {others.length ? (
        <p className="text-sm text-muted">
          Not for all of them:{' '}
          {others.map((one) => `${one.free} of ${one.name}, ${wholeNumber(one.ml)} ml`).join(', ')}.
        </p>
      ) : null}
    </div>
  );
}
