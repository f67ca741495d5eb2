import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useScale } from '~/devices/use-scale';
import { YieldRibbon } from '~/food/yield-ribbon';
import { day, exactWeight, weight } from '~/lib/format';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { useAwake } from '~/views/batch/cook/use-awake';
import { StageLine } from '~/views/batch/frame/stage-line';
import { type Change, type Plan, usePlan } from '~/views/batch/frame/use-plan';
import { useStages } from '~/views/batch/frame/use-stages';
import { DoubtDialog, WaitingNotice } from '~/views/batch/waiting-notice';
import { partsOf, sumOf } from '~/views/batch/weigh/parts';
import { WeighIn } from '~/views/batch/weigh/weigh-in';

type Pot = Plan['components'][number];

/** Every pot that came off the heat: what was expected, what the scale says, what it changes. */
export function WeighPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/weigh' });
  const { pot: chosen } = useSearch({ from: '/inside/batches/$batchId/weigh' });
  const navigate = useNavigate({ from: '/batches/$batchId/weigh' });
  const goTo = useStages(batchId);
  const desk = usePlan(batchId);
  const scale = useScale();
  useAwake(true);
  const { plan: query } = desk;
  if (query.isError && !query.data)
    return <LoadFailed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Loading what="the pots" />;
  const plan = query.data;
  const pots = plan.components.filter((component) => component.to_weigh);
  const waits = (pot: Pot) => weightOf(desk.toHandIn, pot);
  const open =
    pots.find((pot) => pot.id === chosen) ??
    pots.find((pot) => !pot.weighing && waits(pot) === null) ??
    pots[0];
  return (
    <>
      <StageLine plan={plan} at="weigh" onGo={goTo} />
      <Page title={`Weigh ${plan.batch.name}`} detail={day(plan.batch.cook_on)}>
        <div className="mb-3 space-y-3 empty:hidden">
          <WaitingNotice desk={desk} />
          {desk.foreign ? (
            <Notice tone="caution">
              <p>
                {desk.foreign.by}: {desk.foreign.words.join('; ')}
              </p>
            </Notice>
          ) : null}
        </div>
        {open ? (
          <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_440px]">
            <ul aria-label="Pots" className="grid gap-3 sm:grid-cols-2">
              {pots.map((pot) => (
                <li key={pot.id}>
                  <Card
                    pot={pot}
                    waits={waits(pot)}
                    isOpen={pot.id === open.id}
                    onOpen={() => void navigate({ search: { pot: pot.id } })}
                  />
                </li>
              ))}
            </ul>
            <section aria-label={open.name} className="space-y-3 lg:sticky lg:top-4">
              <h2 className="text-2xl">{open.name}</h2>
              <p className="text-muted">{expectedWords(open)}</p>
              {scale.instrument ? (
                <p className="figures text-right text-5xl font-bold" data-testid="scale">
                  {scale.isLost || scale.reading?.value == null ? '––––' : exactWeight(scale.reading.value)}
                  <span role="status" className="block font-sans text-sm font-normal text-muted">
                    {scale.instrument.name}:{' '}
                    {scale.isLost
                      ? 'says nothing, type the weight'
                      : scale.reading?.state === 'overload'
                        ? 'too heavy, weigh it in two'
                        : scale.reading?.is_steady
                          ? 'stands still'
                          : 'moves'}
                  </span>
                </p>
              ) : null}
              <WeighIn
                key={`${open.id}/${desk.taken}`}
                component={open}
                closed={plan.batch.packed_at !== null}
                desk={desk}
                plan={plan}
                shows={
                  scale.instrument === undefined
                    ? undefined
                    : scale.isLost || !scale.reading?.is_steady
                      ? null
                      : scale.reading.value
                }
              />
            </section>
          </div>
        ) : (
          <Empty title="Nothing to weigh">
            <p>What no pot gives to any container is not weighed.</p>
          </Empty>
        )}
      </Page>
      <DoubtDialog desk={desk} />
    </>
  );
}

/** What should come out, in words. */
const expectedWords = (pot: Pot) =>
  pot.weighing
    ? `${weight(pot.basis_g)} went in; ${weight(pot.needed_g)} go into containers.`
    : `About ${weight(pot.cooked_g)} should come out of ${weight(pot.basis_g)}, usually ${weight(pot.cooked_low_g)} to ${weight(pot.cooked_high_g)}; ${weight(pot.needed_g)} go into containers.`;

/** What the last weight of a pot that is not handed in comes to, in words; null where there is none. */
function weightOf(changes: Change[], pot: Pot): string | null {
  const last = changes.findLast((one) => one.kind === 'weigh' && one.component_id === pot.id);
  if (last?.kind !== 'weigh') return null;
  const net =
    (last.with_parts ? sumOf(partsOf(pot)) : 0) +
    last.vessels.reduce((sum, one) => sum + Number(one.gross_g) - Number(one.vessel_g ?? 0), 0) -
    Number(last.removed_g ?? 0);
  // A sum stays as it was typed until the server has read it.
  return Number.isNaN(net) ? 'as typed' : weight(net);
}

function Card({
  pot,
  waits,
  isOpen,
  onOpen,
}: {
  pot: Pot;
  waits: string | null;
  isOpen: boolean;
  onOpen: () => void;
}) {
  const isDoubted = pot.doubts.length > 0 || (pot.weighing?.others?.length ?? 0) > 0;
  return (
    <button
      type="button"
      aria-current={isOpen ? 'true' : undefined}
      onClick={onOpen}
      className={`block min-h-24 w-full rounded-xl border-2 p-3 text-left ${
        isOpen
          ? 'border-ink bg-sheet ring-3 ring-ochre'
          : pot.weighing
            ? 'border-steel bg-bench'
            : 'border-edge bg-sheet'
      }`}
    >
      <span className="flex items-baseline justify-between gap-3">
        <b className="min-w-0">{pot.name}</b>
        <span className="figures text-lg font-bold whitespace-nowrap">
          {waits ??
            (pot.weighing ? (
              weight(pot.cooked_g)
            ) : (
              <span className="text-muted">~{weight(pot.cooked_g)}</span>
            ))}
        </span>
      </span>
      <span className="mt-2 block">
        <YieldRibbon
          basis={pot.basis_g}
          low={pot.cooked_low_g}
          cooked={pot.cooked_g}
          high={pot.cooked_high_g}
          factor={pot.yield_factor}
          measured={pot.weighing !== null}
        />
      </span>
      <span className={`mt-1 block text-sm ${isDoubted ? 'font-bold text-alert' : 'text-muted'}`}>
        {waits
          ? 'waits to be handed in'
          : isDoubted
            ? 'look at this weight'
            : pot.weighing
              ? `weighed by ${pot.weighing.weighed_by}`
              : partsOf(pot).length
                ? `${exactWeight(sumOf(partsOf(pot)))} weighed so far, the rest to come`
                : 'to weigh'}
      </span>
    </button>
  );
}
