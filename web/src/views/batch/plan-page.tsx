import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { Tabs } from 'radix-ui';
import { toast } from 'sonner';
import { day, moment, plural, weight } from '~/lib/format';
import { useShortcut } from '~/lib/keys';
import { whatMoved } from '~/lib/moved';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Guard } from '~/parts/guard';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { Tip } from '~/parts/tip';
import { FillSheet } from '~/views/batch/fill/fill-sheet';
import { HistoryPanel } from '~/views/batch/frame/history-panel';
import { Panel } from '~/views/batch/frame/panel';
import { stepsQuery } from '~/views/batch/frame/queries';
import type { PlanSearch } from '~/views/batch/frame/search';
import { type Stage, StageLine } from '~/views/batch/frame/stage-line';
import { mayGoAgain, type Plan, type PlanDesk, type Step, usePlan } from '~/views/batch/frame/use-plan';
import { usePreview } from '~/views/batch/frame/use-preview';
import { BatchPanel } from '~/views/batch/plan/batch-panel';
import { BesideView } from '~/views/batch/plan/beside-view';
import { ComponentPanel } from '~/views/batch/plan/component-panel';
import { DaysView } from '~/views/batch/plan/days-view';
import { PlanGrid } from '~/views/batch/plan/plan-grid';
import { ReachMap } from '~/views/batch/plan/reach-map';
import { RowPanel } from '~/views/batch/plan/row-panel';
import { planQuery } from '~/views/batches/queries';

const UNDO = { caption: 'In the plan', key: 'z', ctrl: true, words: 'undo', inFields: 'saved' } as const;
const REDO = { ...UNDO, shift: true, words: 'do again' } as const;

/** What the side panel shows: `row:…` and `component:…` in the address, so that it is there after a reload. */
type Aside =
  | { show: 'settle' }
  | { show: 'brief' }
  | { show: 'weigh' }
  | { show: 'reach' }
  | { show: 'history' }
  | { show: 'row' | 'component'; id: string };

const addressOf = (aside: Aside) => ('id' in aside ? `${aside.show}:${aside.id}` : aside.show);

function panelOf(address: string | undefined): Aside {
  const [show = '', id = ''] = (address ?? '').split(':');
  if ((show === 'row' || show === 'component') && id) return { show, id };
  return show === 'brief' || show === 'weigh' || show === 'reach' || show === 'history'
    ? { show }
    : { show: 'settle' };
}

export function PlanPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId' });
  return <PlanDeskPage key={batchId} batchId={batchId} />;
}

function PlanDeskPage({ batchId }: { batchId: string }) {
  const desk = usePlan(batchId);
  const preview = usePreview(batchId);
  const search = useSearch({ from: '/inside/batches/$batchId' });
  const navigate = useNavigate();
  const go = (to: PlanSearch) =>
    void navigate({ to: '/batches/$batchId', params: { batchId }, search: to, replace: true });
  const setView = (view: PlanSearch['view'], other?: string) =>
    go({
      ...(view ? { view } : {}),
      ...(other ? { other } : {}),
      ...(search.panel ? { panel: search.panel } : {}),
    });
  const aside = panelOf(search.panel);
  const setAside = (next: Aside) => {
    const { panel: _, ...rest } = search;
    go(next.show === 'settle' ? rest : { ...rest, panel: addressOf(next) });
  };
  useShortcut(UNDO, desk.undo);
  useShortcut(REDO, desk.redo);
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
        actions={<Actions plan={plan} desk={desk} onShow={setAside} />}
      >
        <FillSheet plan={plan} />
        <div className="print:hidden grid items-start gap-4 xl:grid-cols-[minmax(0,1fr)_266px]">
          <Tabs.Root
            className="min-w-0"
            value={search.view ?? CONTAINERS}
            onValueChange={(chosen) => setView(VIEWS.find(({ view }) => view === chosen)?.view)}
          >
            <ViewChoice />
            <Tabs.Content value={search.view ?? CONTAINERS} tabIndex={-1}>
              {search.view === 'days' ? (
                <Guard what="The days">
                  <DaysView plan={plan} />
                </Guard>
              ) : search.view === 'beside' ? (
                <Guard what="The other batch">
                  <BesideView
                    plan={plan}
                    other={search.other}
                    onOther={(other) => setView('beside', other)}
                  />
                </Guard>
              ) : (
                <Guard what="The plan">
                  <PlanGrid
                    plan={preview.plan ?? plan}
                    moved={preview.plan ? whatMoved(plan, preview.plan) : desk.moved}
                    chosenRow={aside.show === 'row' ? aside.id : null}
                    chosenComponent={chosenComponent?.id ?? null}
                    onChange={desk.change}
                    onAct={desk.act}
                    onPreview={(changes) =>
                      changes ? preview.show(plan.batch.version, changes) : preview.end()
                    }
                    onRow={(id) => setAside({ show: 'row', id })}
                    onComponent={(id) => setAside({ show: 'component', id })}
                  />
                </Guard>
              )}
            </Tabs.Content>
          </Tabs.Root>
          <aside aria-label="Details" className="print:hidden grid items-start gap-4 sm:max-xl:grid-cols-2">
            <WaitingNotice desk={desk} />
            {desk.foreign ? (
              <Notice tone="caution" title="Changed in another window">
                <p>{desk.foreign.by} changed this batch just now; what moved is marked.</p>
                <ul className="list-disc pl-5">
                  {desk.foreign.words.map((words) => (
                    <li key={words}>{words}</li>
                  ))}
                </ul>
              </Notice>
            ) : null}
            <Guard what="This panel" at={search.panel ?? ''}>
              <AsidePanel plan={plan} aside={aside} desk={desk} onShow={setAside} />
            </Guard>
            <Extra plan={plan} />
            <EngineOlder plan={plan} />
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

const CONTAINERS = 'containers';
const VIEWS: { view: PlanSearch['view']; label: string }[] = [
  { view: undefined, label: 'Containers' },
  { view: 'days', label: 'Whole days' },
  { view: 'beside', label: 'Beside another batch' },
];

function ViewChoice() {
  return (
    <Tabs.List aria-label="What of the plan is shown" className="mb-2 flex flex-wrap gap-x-1">
      {VIEWS.map(({ view, label }) => (
        <Tabs.Trigger
          key={label}
          value={view ?? CONTAINERS}
          className="min-h-11 border-transparent border-b-[3px] px-3 text-muted hover:text-ink data-[state=active]:border-ink data-[state=active]:font-bold data-[state=active]:text-ink"
        >
          {label}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}

/** Undo and redo go by the log of the batch: the step may be somebody else's, and the button says so. */
function StepButton({ words, step, onPress }: { words: string; step: Step | null; onPress: () => void }) {
  return (
    <Tip words={step ? step.words.join('; ') : ''}>
      <Button onClick={onPress} disabled={step === null}>
        {step === null || step.own ? words : `${words} ${step.by}’s`}
      </Button>
    </Tip>
  );
}

const WEIGH_FIRST = 'Weigh every component first.';

function Actions({ plan, desk, onShow }: { plan: Plan; desk: PlanDesk; onShow: (aside: Aside) => void }) {
  const packed = plan.batch.packed_at !== null;
  const allWeighed = plan.components.every((component) => component.weighing !== null);
  const pack = () => desk.act((now) => [{ kind: 'packed', packed: now.batch.packed_at === null }]);
  return (
    <>
      <StepButton words="Undo" step={desk.steps.undo} onPress={desk.undo} />
      <StepButton words="Redo" step={desk.steps.redo} onPress={desk.redo} />
      <Button onClick={() => onShow({ show: 'history' })}>History</Button>
      {packed ? null : <Button onClick={() => onShow({ show: 'reach' })}>Reach map</Button>}
      <Button onClick={() => window.print()}>Print fill sheet</Button>
      {packed ? (
        <Button onClick={pack}>Open it again</Button>
      ) : (
        <Tip words={allWeighed ? '' : WEIGH_FIRST}>
          {/* It can be reached while it waits for the weights, and says so. */}
          <Button
            look="main"
            aria-disabled={!allWeighed}
            onClick={() => (allWeighed ? void pack() : toast(WEIGH_FIRST))}
          >
            Mark as packed
          </Button>
        </Tip>
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
  if (aside.show === 'history') return <HistoryPanel plan={plan} desk={desk} onClose={close} />;
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

const KEPT =
  'The server does not answer. What you change is kept in this browser and sent as soon as it does.';

/** What the server did not take: made on an older plan, lost on its way, or refused. Nothing goes without a word. */
function WaitingNotice({ desk }: { desk: PlanDesk }) {
  const { waiting } = desk;
  if (!waiting || waiting.problem.type === 'doubtful') return null;
  const { problem } = waiting;
  const stale = problem.type === 'stale';
  return (
    <Notice tone="alert" title={problem.title}>
      <p className="mb-2">{problem.type === 'unreachable' ? KEPT : problem.detail}</p>
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
    <Overlaid
      asks
      open={doubt !== null}
      onOpenChange={(open) => (open ? undefined : void desk.drop())}
      title={doubt?.title ?? ''}
      detail={<span className="text-base">{doubt?.detail}</span>}
    >
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
        <Close asks>
          <Button look="main">Correct it</Button>
        </Close>
        <Button onClick={() => void desk.retry()}>Record it anyway</Button>
      </div>
    </Overlaid>
  );
}

type Taken = 'recipe' | 'foods' | 'targets' | 'anew';
const TAKEN: Record<Taken, string> = {
  recipe: 'the recipe as it is now',
  foods: 'foods by their newest figures',
  targets: 'targets as the clients have them now',
  anew: 'planned anew',
};

/** The batch as it is with the newest recipe, or the newest figures of its foods. */
function useTake(plan: Plan, what: Taken) {
  const queries = useQueryClient();
  const params = { path: { batch_id: plan.batch.id }, query: { version: plan.batch.version } };
  return useMutation({
    mutationFn: () =>
      write(call('post', `/api/v1/batches/{batch_id}/${what}`, { params }), {
        about: `batch/${plan.batch.id}`,
        words: [TAKEN[what]],
        href: `/batches/${plan.batch.id}`,
      }),
    onSuccess: (fresh) => {
      queries.setQueryData(planQuery(plan.batch.id).queryKey, fresh);
      void queries.invalidateQueries({ queryKey: stepsQuery(plan.batch.id).queryKey });
    },
    onError: showProblem,
  });
}

/** The plan is as an earlier version of the application computed it; nothing of it moves unasked. */
function EngineOlder({ plan }: { plan: Plan }) {
  const take = useTake(plan, 'anew');
  if (!plan.batch.engine_older) return null;
  return (
    <Notice tone="caution" title="Planned by an earlier version">
      <p className="mb-2">
        The way grams are found has changed since. This plan is as it was; the next change plans it anew.
      </p>
      <Button onClick={() => take.mutate()} disabled={take.isPending}>
        Plan it anew now
      </Button>
    </Notice>
  );
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
