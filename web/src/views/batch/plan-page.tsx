import { useQuery } from '@tanstack/react-query';
import { useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { day, plural } from '~/lib/format';
import { useShortcut } from '~/lib/keys';
import { whatMoved } from '~/lib/moved';
import { usePhone } from '~/lib/use-media';
import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import { Guard } from '~/parts/guard';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { Actions } from '~/views/batch/actions';
import { type Aside, AsidePanel, addressOf, panelOf } from '~/views/batch/aside-panel';
import { FillSheet } from '~/views/batch/fill/fill-sheet';
import { CostsShown, useRowCosts } from '~/views/batch/frame/costs';
import { fillingQuery } from '~/views/batch/frame/queries';
import type { PlanSearch } from '~/views/batch/frame/search';
import { type Stage, StageLine } from '~/views/batch/frame/stage-line';
import { usePlan } from '~/views/batch/frame/use-plan';
import { usePreview } from '~/views/batch/frame/use-preview';
import { useStages } from '~/views/batch/frame/use-stages';
import { Extra } from '~/views/batch/next-steps';
import { BesideView } from '~/views/batch/plan/beside-view';
import { DaysView } from '~/views/batch/plan/days-view';
import { dishNames } from '~/views/batch/plan/dishes';
import { PlanCards } from '~/views/batch/plan/plan-cards';
import { PlanGrid } from '~/views/batch/plan/plan-grid';
import { OnePot, OutOfPlan, Pots } from '~/views/batch/plan/pots';
import { TooFew } from '~/views/batch/plan/too-few';
import { EngineOlder, FoodsChanged, RecipeChanged, TargetsChanged } from '~/views/batch/taken-anew';
import { DoubtDialog, WaitingNotice } from '~/views/batch/waiting-notice';

const UNDO = { caption: 'In the plan', key: 'z', ctrl: true, words: 'undo', inFields: 'saved' } as const;
const REDO = { ...UNDO, shift: true, words: 'do again' } as const;

export function PlanPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId' });
  return <PlanDeskPage key={batchId} batchId={batchId} />;
}

function PlanDeskPage({ batchId }: { batchId: string }) {
  const desk = usePlan(batchId);
  const preview = usePreview(batchId);
  const search = useSearch({ from: '/inside/batches/$batchId' });
  const phone = usePhone();
  const [typing, setTyping] = useState(false);
  const navigate = useNavigate();
  const goTo = useStages(batchId);
  const go = (to: PlanSearch) =>
    void navigate({ to: '/batches/$batchId', params: { batchId }, search: to, replace: true });
  const setView = (view: PlanSearch['view'], other?: string) =>
    go({
      ...(view ? { view } : {}),
      ...(other ? { other } : {}),
      ...(search.panel ? { panel: search.panel } : {}),
      ...(search.costs ? { costs: search.costs } : {}),
    });
  const showCosts = (shown: boolean) => {
    const { costs: _, ...rest } = search;
    go(shown ? { ...rest, costs: true } : rest);
  };
  const aside = panelOf(search.panel);
  const costs = useRowCosts(batchId, desk.plan.data?.batch.version ?? 0, search.costs === true);
  const setAside = (next: Aside) => {
    const { panel: _, ...rest } = search;
    go(next.show === 'settle' ? rest : { ...rest, panel: addressOf(next) });
  };
  // What was filled by now stands on the sheet that is printed here too; before anything is weighed nothing was.
  const isWeighed = desk.plan.data?.components.some((one) => one.weighing) ?? false;
  const filling = useQuery({ ...fillingQuery(batchId), enabled: isWeighed }).data;
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
  const stage: Stage = aside.show === 'brief' ? 'brief' : 'plan';
  return (
    <CostsShown value={costs}>
      <StageLine
        plan={plan}
        at={stage}
        onGo={(to) =>
          to === 'brief' || to === 'plan' ? setAside({ show: to === 'plan' ? 'settle' : to }) : goTo(to)
        }
      />
      <Page
        title={plan.batch.name}
        detail={`${day(plan.batch.cook_on)}, ${plural(containers, 'container')}, ${plan.dishes.length > 2 ? plural(plan.dishes.length, 'dish', 'dishes') : dishNames(plan.dishes)}`}
        actions={<Actions plan={plan} desk={desk} onShow={setAside} />}
      >
        <FillSheet plan={plan} {...(filling ? { filling } : {})} />
        <div className="print:hidden grid items-start gap-4 xl:grid-cols-[minmax(0,1fr)_266px]">
          <Tabs.Root
            className="min-w-0"
            value={search.view ?? CONTAINERS}
            onValueChange={(chosen) => setView(VIEWS.find(({ view }) => view === chosen)?.view)}
          >
            <div className="mb-2 flex flex-wrap items-center justify-between gap-x-4">
              <ViewChoice />
              {search.view === undefined ? (
                <Tick label="What they cost" checked={search.costs === true} onChange={showCosts} />
              ) : null}
            </div>
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
                  {phone ? (
                    <Button className="mb-3 w-full" onClick={() => setTyping(!typing)}>
                      {typing ? 'Read it line by line' : 'Change grams in the grid'}
                    </Button>
                  ) : null}
                  {phone && !typing ? (
                    <PlanCards plan={preview.plan ?? plan} onRow={(id) => setAside({ show: 'row', id })} />
                  ) : (
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
                      onDish={(id) => setAside({ show: 'dish', id })}
                    />
                  )}
                </Guard>
              )}
            </Tabs.Content>
          </Tabs.Root>
          <aside
            aria-label="Details"
            className="print:hidden grid grid-cols-[minmax(0,1fr)] items-start gap-4 sm:max-xl:grid-cols-2"
          >
            {plan.batch.deleted_at ? (
              <Notice tone="caution" title="This batch is deleted">
                <p className="mb-2">It is in no list any more. Nothing of it is lost.</p>
                <Button onClick={() => void desk.act(() => [{ kind: 'delete', deleted: false }])}>
                  Bring it back
                </Button>
              </Notice>
            ) : null}
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
            <TooFew plan={plan} desk={desk} onRow={(id) => setAside({ show: 'row', id })} />
            <Extra plan={plan} />
            <Pots plan={plan} onOpen={(id) => setAside({ show: 'component', id })} />
            <OnePot plan={plan} desk={desk} />
            <OutOfPlan plan={plan} desk={desk} />
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
    </CostsShown>
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
    <Tabs.List aria-label="What of the plan is shown" className="flex flex-wrap gap-x-1">
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
