import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { PlanSearch } from '~/app/router';
import { api, ask, toProblem } from '~/lib/api';
import { day, moment, plural, weight } from '~/lib/format';
import { whatMoved } from '~/lib/moved';
import { planQuery } from '~/lib/queries';
import { useUndoKeys } from '~/lib/use-undo-keys';
import { Button } from '~/parts/button';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { BatchPanel } from '~/views/plan/batch-panel';
import { BesideView } from '~/views/plan/beside-view';
import { ComponentPanel } from '~/views/plan/component-panel';
import { DaysView } from '~/views/plan/days-view';
import { FillSheet } from '~/views/plan/fill-sheet';
import { Panel } from '~/views/plan/panel';
import { PlanGrid } from '~/views/plan/plan-grid';
import { ReachMap } from '~/views/plan/reach-map';
import { RowPanel } from '~/views/plan/row-panel';
import { type Stage, StageLine } from '~/views/plan/stage-line';
import { mayGoAgain, type Plan, type PlanDesk, usePlan } from '~/views/plan/use-plan';
import { usePreview } from '~/views/plan/use-preview';

/** What the side panel shows. */
type Aside =
  | { show: 'settle' }
  | { show: 'brief' }
  | { show: 'weigh' }
  | { show: 'reach' }
  | { show: 'row' | 'component'; id: string };

export function PlanPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId' });
  return <PlanDeskPage key={batchId} batchId={batchId} />;
}

function PlanDeskPage({ batchId }: { batchId: string }) {
  const desk = usePlan(batchId);
  const preview = usePreview(batchId);
  const search = useSearch({ from: '/inside/batches/$batchId' });
  const navigate = useNavigate();
  const setView = (view: PlanSearch['view'], other?: string) =>
    void navigate({
      to: '/batches/$batchId',
      params: { batchId },
      search: { ...(view ? { view } : {}), ...(other ? { other } : {}) },
      replace: true,
    });
  const [aside, setAside] = useState<Aside>({ show: 'settle' });
  useUndoKeys(desk.undo, desk.redo);
  const { plan: query } = desk;
  if (query.isError && !query.data)
    return <LoadFailed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Loading what="the plan" />;
  const plan = query.data;
  const containers = plan.rows.reduce((sum, row) => sum + row.count, 0);
  const chosenComponent =
    aside.show === 'component' ? plan.components.find((component) => component.id === aside.id) : undefined;
  const stage: Stage = aside.show === 'brief' ? 'brief' : aside.show === 'weigh' ? 'weigh' : 'plan';
  return (
    <>
      <StageLine plan={plan} at={stage} onGo={(to) => setAside({ show: to === 'plan' ? 'settle' : to })} />
      <Page
        title={plan.batch.name}
        detail={`${day(plan.batch.cook_on)}, ${plural(containers, 'container')}, ${plan.batch.recipe}`}
        actions={<Actions plan={plan} desk={desk} onReach={() => setAside({ show: 'reach' })} />}
      >
        <FillSheet plan={plan} />
        <div className="print:hidden grid items-start gap-4 xl:grid-cols-[minmax(0,1fr)_266px]">
          <div className="min-w-0">
            <ViewChoice view={search.view} onView={setView} />
            {search.view === 'days' ? (
              <DaysView plan={plan} />
            ) : search.view === 'beside' ? (
              <BesideView plan={plan} other={search.other} onOther={(other) => setView('beside', other)} />
            ) : (
              <PlanGrid
                plan={preview.plan ?? plan}
                moved={preview.plan ? whatMoved(plan, preview.plan) : desk.moved}
                chosenRow={aside.show === 'row' ? aside.id : null}
                chosenComponent={chosenComponent?.id ?? null}
                onChange={desk.change}
                onAct={desk.act}
                onPreview={(changes) => (changes ? preview.show(plan.batch.version, changes) : preview.end())}
                onRow={(id) => setAside({ show: 'row', id })}
                onComponent={(id) => setAside({ show: 'component', id })}
              />
            )}
          </div>
          <aside aria-label="Details" className="print:hidden grid items-start gap-4 sm:max-xl:grid-cols-2">
            <WaitingNotice desk={desk} />
            {desk.foreign ? (
              <Notice tone="caution" title="Changed in another window">
                {desk.foreign} changed this batch just now; what moved is marked.
              </Notice>
            ) : null}
            <AsidePanel plan={plan} aside={aside} desk={desk} onShow={setAside} />
            <Extra plan={plan} />
            <RecipeChanged plan={plan} />
            <FoodsChanged plan={plan} />
            <TargetsChanged plan={plan} />
            {plan.cautions.map((caution) => (
              <Notice key={caution} tone="caution" title="Shared kitchen">
                {caution}
              </Notice>
            ))}
          </aside>
        </div>
      </Page>
      <DoubtDialog desk={desk} />
    </>
  );
}

const VIEWS: { view: PlanSearch['view']; label: string }[] = [
  { view: undefined, label: 'Containers' },
  { view: 'days', label: 'Whole days' },
  { view: 'beside', label: 'Beside another batch' },
];

function ViewChoice({
  view,
  onView,
}: {
  view: PlanSearch['view'];
  onView: (view: PlanSearch['view']) => void;
}) {
  return (
    <fieldset className="mb-2 flex flex-wrap gap-x-1">
      <legend className="sr-only">What of the plan is shown</legend>
      {VIEWS.map((one) => (
        <button
          key={one.label}
          type="button"
          aria-pressed={one.view === view}
          onClick={() => onView(one.view)}
          className={`min-h-11 border-b-[3px] px-3 ${
            one.view === view ? 'border-ink font-bold' : 'border-transparent text-muted hover:text-ink'
          }`}
        >
          {one.label}
        </button>
      ))}
    </fieldset>
  );
}

function Actions({ plan, desk, onReach }: { plan: Plan; desk: PlanDesk; onReach: () => void }) {
  const packed = plan.batch.packed_at !== null;
  const allWeighed = plan.components.every((component) => component.weighing !== null);
  const pack = () => desk.act((now) => [{ kind: 'packed', packed: now.batch.packed_at === null }]);
  return (
    <>
      <Button onClick={desk.undo} disabled={!desk.canUndo}>
        Undo
      </Button>
      <Button onClick={desk.redo} disabled={!desk.canRedo}>
        Redo
      </Button>
      {packed ? null : <Button onClick={onReach}>Reach map</Button>}
      <Button onClick={() => window.print()}>Print fill sheet</Button>
      {packed ? (
        <Button onClick={pack}>Open it again</Button>
      ) : (
        <Button
          look="main"
          onClick={pack}
          disabled={!allWeighed}
          title={allWeighed ? '' : 'Weigh every component first'}
        >
          Mark as packed
        </Button>
      )}
    </>
  );
}

function AsidePanel({
  plan,
  aside,
  desk,
  onShow,
}: {
  plan: Plan;
  aside: Aside;
  desk: PlanDesk;
  onShow: (aside: Aside) => void;
}) {
  const close = () => onShow({ show: 'settle' });
  const closed = plan.batch.packed_at !== null;
  if (aside.show === 'component') {
    const component = plan.components.find((one) => one.id === aside.id);
    if (component) {
      return (
        <ComponentPanel
          key={component.id}
          component={component}
          closed={closed}
          desk={desk}
          onClose={close}
        />
      );
    }
  }
  if (aside.show === 'row') {
    const row = plan.rows.find((one) => one.id === aside.id);
    if (row) return <RowPanel key={row.id} plan={plan} row={row} desk={desk} onClose={close} />;
  }
  if (aside.show === 'brief') return <BatchPanel plan={plan} desk={desk} onClose={close} />;
  if (aside.show === 'reach') return <ReachMap plan={plan} onClose={close} />;
  if (aside.show === 'weigh')
    return <WeighList plan={plan} onOpen={(id) => onShow({ show: 'component', id })} onClose={close} />;
  return <SettleList plan={plan} onShow={onShow} />;
}

/** What the leftovers of the weighed pots would fill, where the coach wants that. */
function Extra({ plan }: { plan: Plan }) {
  if (plan.batch.leftover !== 'extra containers') return null;
  const { extra } = plan;
  return (
    <Panel title={extra ? `${plural(extra.count, 'extra container')}` : 'Extra containers'}>
      <p className="text-sm">
        {extra === null
          ? 'Weigh every component to see how many containers the leftovers fill.'
          : extra.count === 0
            ? 'What is left over fills no further container like these.'
            : `Each of ${weight(extra.total_g)}: ${extra.parts.join(', ')}. They belong to nobody yet.`}
      </p>
    </Panel>
  );
}

function SettleList({ plan, onShow }: { plan: Plan; onShow: (aside: Aside) => void }) {
  if (plan.batch.packed_at !== null) {
    return (
      <Panel title="Packed" detail={moment(plan.batch.packed_at)}>
        <p className="text-sm">This batch is closed. Open it again to change it.</p>
      </Panel>
    );
  }
  if (plan.to_settle.length === 0) {
    return (
      <Panel
        title={plan.rows.some((row) => row.gauges.length > 0) ? 'Every target is met' : 'Nothing to settle'}
      >
        <p className="text-sm">
          Cook what the heads of the columns say, then open a component and weigh what came out: the grams
          follow.
        </p>
      </Panel>
    );
  }
  return (
    <>
      {plan.to_settle.map((one) => (
        <Notice key={one.title} tone="alert" title={one.title}>
          <p>{one.detail}</p>
          {one.row_id || one.component_id ? (
            <button
              type="button"
              className="mt-1 min-h-9 font-medium underline"
              onClick={() =>
                onShow(
                  one.row_id
                    ? { show: 'row', id: one.row_id }
                    : { show: 'component', id: one.component_id ?? '' },
                )
              }
            >
              {one.row_id ? 'Ways out' : 'Look inside'}
            </button>
          ) : null}
        </Notice>
      ))}
    </>
  );
}

function WeighList({
  plan,
  onOpen,
  onClose,
}: {
  plan: Plan;
  onOpen: (id: string) => void;
  onClose: () => void;
}) {
  return (
    <Panel title="Weigh" detail="each component whole, its vessel taken off" onClose={onClose}>
      <ul className="space-y-2">
        {plan.components.map((component) => (
          <li key={component.id}>
            <Button className="w-full !justify-between" onClick={() => onOpen(component.id)}>
              <span className="truncate">{component.name}</span>
              <span className="figures text-sm">
                {component.weighing ? `${weight(component.weighing.cooked_g)}` : 'to weigh'}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** What the server did not take: made on an older plan, lost on its way, or refused. Nothing goes without a word. */
function WaitingNotice({ desk }: { desk: PlanDesk }) {
  const { waiting } = desk;
  if (!waiting || waiting.problem.type === 'doubtful') return null;
  const { problem } = waiting;
  const stale = problem.type === 'stale';
  return (
    <Notice tone="alert" title={problem.title}>
      <p className="mb-2">{problem.detail}</p>
      <p className="mb-1 font-medium">Not saved:</p>
      <ul className="mb-3 list-disc pl-5">
        {desk.unsaved.map((one) => (
          <li key={one.id}>{one.words}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {mayGoAgain(problem) ? (
          <Button look="main" onClick={() => void desk.retry()}>
            {stale ? 'Apply mine to the newest' : 'Send again'}
          </Button>
        ) : null}
        <Button onClick={() => void desk.drop()}>
          {stale ? 'Take the newest only' : mayGoAgain(problem) ? 'Drop' : 'Understood'}
        </Button>
      </div>
    </Notice>
  );
}

function DoubtDialog({ desk }: { desk: PlanDesk }) {
  const doubt = desk.waiting?.problem.type === 'doubtful' ? desk.waiting.problem : null;
  return (
    <AlertDialog.Root open={doubt !== null} onOpenChange={(open) => (open ? undefined : void desk.drop())}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content className="fixed top-28 left-1/2 z-40 w-[520px] max-w-[94vw] -translate-x-1/2 rounded-xl border border-edge bg-sheet p-6 shadow-xl">
          <AlertDialog.Title className="mb-2 text-xl">{doubt?.title}</AlertDialog.Title>
          <AlertDialog.Description className="mb-5">{doubt?.detail}</AlertDialog.Description>
          {doubt?.mends?.length ? (
            <ul aria-label="Ways to correct it" className="mb-5 space-y-2">
              {doubt.mends.slice(0, 3).map((mend) => (
                <li key={mend.words}>
                  <Button
                    className="w-full !justify-start !whitespace-normal py-2 text-left"
                    onClick={() => void desk.retryWith(mend.vessels)}
                  >
                    {mend.words} Record it so.
                  </Button>
                </li>
              ))}
            </ul>
          ) : null}
          <div className="flex flex-wrap justify-end gap-3">
            <AlertDialog.Cancel asChild>
              <Button look="main">Correct it</Button>
            </AlertDialog.Cancel>
            <Button onClick={() => void desk.retry()}>Record it anyway</Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

type Taken = 'recipe' | 'foods' | 'targets';

/** The batch as it is with the newest recipe, or the newest figures of its foods. */
function useTake(plan: Plan, what: Taken) {
  const queries = useQueryClient();
  const params = { path: { batch_id: plan.batch.id }, query: { version: plan.batch.version } };
  return useMutation({
    mutationFn: () =>
      what === 'recipe'
        ? ask(api.POST('/api/v1/batches/{batch_id}/recipe', { params }))
        : what === 'foods'
          ? ask(api.POST('/api/v1/batches/{batch_id}/foods', { params }))
          : ask(api.POST('/api/v1/batches/{batch_id}/targets', { params })),
    onSuccess: (fresh) => queries.setQueryData(planQuery(plan.batch.id).queryKey, fresh),
    onError: (error) => toast.error(toProblem(error).detail),
  });
}

function RecipeChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'recipe');
  if (!plan.batch.recipe_changed) return null;
  return (
    <Notice tone="caution" title="The recipe has changed">
      <p className="mb-2">This batch keeps the recipe as it was when you planned it.</p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Take the recipe as it is now
      </Button>
    </Notice>
  );
}

/** Foods were edited after this batch took their figures: it keeps them until the coach takes the new ones. */
function FoodsChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'foods');
  if (plan.batch.foods_changed.length === 0) return null;
  return (
    <Notice tone="caution" title="Foods were edited">
      <p className="mb-2">
        This batch counts {plan.batch.foods_changed.join(', ')} by the figures it was planned with.
      </p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it with the new figures
      </Button>
    </Notice>
  );
}

/** Clients aim at something else than when this batch took their targets. */
function TargetsChanged({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'targets');
  if (plan.batch.targets_changed.length === 0) return null;
  return (
    <Notice tone="caution" title="Targets have changed">
      <p>This batch keeps the targets it was planned with. The clients now have:</p>
      <ul className="mb-2">
        {plan.batch.targets_changed.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it with the new targets
      </Button>
    </Notice>
  );
}
