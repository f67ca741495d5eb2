import { useQuery } from '@tanstack/react-query';
import { useRights } from '~/api/session';
import { plural } from '~/lib/format';
import { cookingQuery, fillingQuery, handOverQuery } from '~/views/batch/frame/queries';
import type { Plan } from '~/views/batch/frame/use-plan';

export type Stage = 'brief' | 'plan' | 'shop' | 'cook' | 'weigh' | 'fill' | 'hand-over';

/** The stages of a helper who cooks. */
const OF_COOKS: Stage[] = ['cook', 'weigh', 'fill'];

/** The stages of the batch as stations on one rule, each with its state in words. */
export function StageLine({ plan, at, onGo }: { plan: Plan; at: Stage; onGo: (stage: Stage) => void }) {
  // As far as it is known here: finding an order of work is not for a line above the plan.
  const live = useQuery({ ...cookingQuery(plan.batch.id, plan.batch.version), enabled: false }).data?.live;
  const filling = useQuery({ ...fillingQuery(plan.batch.id), enabled: false }).data;
  const closed = filling?.containers.filter((box) => box.is_closed).length;
  const handed = useQuery({ ...handOverQuery(plan.batch.id), enabled: false }).data;
  const waiting = handed?.clients.reduce((sum, one) => sum + one.waiting.length, 0);
  const clients = new Set(plan.rows.filter((row) => row.count > 0).map((row) => row.client_id)).size;
  const containers = plan.rows.reduce((sum, row) => sum + row.count, 0);
  const toWeigh = plan.components.filter((component) => component.to_weigh);
  const weighed = toWeigh.filter((component) => component.weighing !== null).length;
  const packed = plan.batch.packed_at !== null;
  const settle = plan.to_settle.length;
  const { isCoach } = useRights();
  const all: { stage: Stage; name: string; state: string; done: boolean }[] = [
    {
      stage: 'brief',
      name: 'Brief',
      state: plural(clients, 'client'),
      done: true,
    },
    {
      stage: 'plan',
      name: 'Plan',
      state: packed ? 'packed' : settle ? `${plural(settle, 'thing')} to settle` : 'all targets met',
      done: packed || settle === 0,
    },
    {
      stage: 'shop',
      name: 'Shop',
      state: 'what to buy',
      done: packed || weighed === toWeigh.length,
    },
    {
      stage: 'cook',
      name: 'Cook',
      state: live ? `${live.steps_done} of ${live.steps} steps` : 'order of work',
      done: packed || weighed === toWeigh.length,
    },
    {
      stage: 'weigh',
      name: 'Weigh',
      state: `${weighed} of ${toWeigh.length}`,
      done: weighed === toWeigh.length,
    },
    {
      stage: 'fill',
      name: 'Fill',
      state:
        closed === undefined
          ? plural(containers, 'container')
          : `${closed} of ${plural(containers, 'container')}`,
      done: packed,
    },
    {
      stage: 'hand-over',
      name: 'Hand over',
      state: waiting === undefined ? 'days' : waiting ? `${waiting} to place` : 'days given',
      done: waiting === 0,
    },
  ];
  const stations = all.filter(({ stage }) => isCoach || OF_COOKS.includes(stage));
  return (
    <nav aria-label="Stages of this batch" className="print:hidden mx-auto w-full max-w-[1400px] px-5 pt-2">
      <ol className={`grid grid-cols-3 gap-y-1 ${isCoach ? 'sm:grid-cols-4 lg:grid-cols-7' : ''}`}>
        {stations.map((station) => (
          <li key={station.stage} className="relative">
            <span
              aria-hidden
              className={`absolute top-[9px] right-0 left-0 h-[3px] ${station.done ? 'bg-ink' : 'bg-steel'}`}
            />
            <button
              type="button"
              aria-current={station.stage === at ? 'step' : undefined}
              onClick={() => onGo(station.stage)}
              className="relative flex min-h-11 flex-col pr-4 text-left"
            >
              <span
                aria-hidden
                className={`block size-[18px] rounded-full border-[3px] ${
                  station.stage === at
                    ? 'border-ink bg-ochre'
                    : station.done
                      ? 'border-ink bg-ink'
                      : 'border-edge bg-paper'
                }`}
              />
              <span>
                <span className="mr-2 font-heading font-bold">{station.name}</span>
                <span className="text-sm text-muted">{station.state}</span>
              </span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
