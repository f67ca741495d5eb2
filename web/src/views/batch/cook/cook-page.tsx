import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Schemas } from '~/api/client';
import { useRights } from '~/api/session';
import { day } from '~/lib/format';
import { Button, buttonClass } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { timeWords } from '~/views/batch/cook/clock';
import { DayForm } from '~/views/batch/cook/day-form';
import { LiveDay } from '~/views/batch/cook/live';
import { DayLog } from '~/views/batch/cook/log';
import { OrderShown } from '~/views/batch/cook/order-shown';
import { calendarOf } from '~/views/batch/cook/queries';
import { allowSound } from '~/views/batch/cook/ring';
import { RunSheet } from '~/views/batch/cook/run-sheet';
import { StepsDialog } from '~/views/batch/cook/steps-dialog';
import { useDayClock } from '~/views/batch/cook/use-day-clock';
import { begunOf, useFacts } from '~/views/batch/cook/use-facts';
import { withFacts } from '~/views/batch/cook/waiting';
import { cookingQuery } from '~/views/batch/frame/queries';
import { StageLine } from '~/views/batch/frame/stage-line';
import { usePlan } from '~/views/batch/frame/use-plan';
import { useStages } from '~/views/batch/frame/use-stages';
import { useToldOf } from '~/views/batch/frame/use-told-of';

type Cooking = Schemas['CookView'];
type Order = Schemas['OrderView'];

/** The order of work of a batch: what is begun when, on what, by whom, and when all is ready to fill. */
export function CookPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/cook' });
  const goTo = useStages(batchId);
  const desk = usePlan(batchId);
  const { isCoach } = useRights();
  const { plan } = desk;
  const queries = useQueryClient();
  const [isSetting, setIsSetting] = useState(false);
  const [isBeginning, setIsBeginning] = useState(false);
  const [changed, setChanged] = useState<string | null>(null);
  const [paper, setPaper] = useState<Paper>('run sheet');
  const print = (of: Paper) => {
    flushSync(() => setPaper(of));
    window.print();
  };
  const cooking = useQuery({
    ...cookingQuery(batchId, plan.data?.batch.version),
    placeholderData: (before) => before,
  });
  const refresh = () => queries.invalidateQueries({ queryKey: ['plans', batchId, 'cooking'] });
  const facts = useFacts(batchId, refresh);
  // Other tablets tell what was noted on them, within a second.
  useToldOf(batchId, ({ cooked }) => (cooked ? void refresh() : undefined));
  const toldAt = useToldAt(cooking.dataUpdatedAt);
  const failed = [plan, cooking].find((one) => one.isError);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!plan.data) return <Loading what="the batch" />;
  const found = cooking.data && withFacts(cooking.data, facts.waiting);
  return (
    <>
      <StageLine plan={plan.data} at="cook" onGo={goTo} />
      <Page
        title={`Cook ${plan.data.batch.name}`}
        detail={day(plan.data.batch.cook_on)}
        actions={
          found?.day ? (
            <>
              {found.order && !found.live ? (
                <Button
                  look="main"
                  onClick={() => {
                    void allowSound();
                    if (openAhead(found).length) setIsBeginning(true);
                    else facts.note({ event: 'day begun' }, 'Cooking begins');
                  }}
                >
                  Begin to cook
                </Button>
              ) : null}
              {isCoach ? <Button onClick={() => setIsSetting(true)}>Set the day</Button> : null}
              {found.order ? <Button onClick={() => print('run sheet')}>Print the run sheet</Button> : null}
              {found.order && !found.live && isCoach ? (
                <a className={buttonClass()} href={calendarOf(batchId)} download>
                  To the calendar
                </a>
              ) : null}
              {found.live ? <Button onClick={() => print('log')}>Print the log</Button> : null}
            </>
          ) : null
        }
      >
        {found === undefined ? (
          <Loading what="the order of work" />
        ) : found.day === null && !isCoach ? (
          <Empty title="No kitchen yet">
            <p>The coach says what there is to cook on and who cooks; the order of work follows.</p>
          </Empty>
        ) : found.day === null ? (
          <Empty title="No kitchen yet">
            <p className="mb-3">
              Say what there is to cook on and who cooks, and the order of work follows: what to begin when,
              on what, by whom.
            </p>
            <Link to="/kitchens/new" className={buttonClass('main')}>
              Describe your kitchen
            </Link>
          </Empty>
        ) : (
          <Found
            found={found}
            batchId={batchId}
            version={plan.data.batch.version}
            toldAt={toldAt}
            facts={facts}
            refresh={refresh}
            paper={paper}
            onSteps={isCoach ? setChanged : undefined}
          />
        )}
      </Page>
      {changed ? (
        <StepsDialog batchId={batchId} componentId={changed} desk={desk} onClose={() => setChanged(null)} />
      ) : null}
      {isBeginning && found ? (
        <Overlaid
          asks
          open
          onOpenChange={setIsBeginning}
          title="Was this done before?"
          detail="What begins long before the day is not marked. What was not done is put into today’s order."
        >
          <ul className="mb-4 list-disc pl-5">
            {openAhead(found).map((one) => (
              <li key={one.key}>
                {one.says} ({one.component}), {timeWords(one.start_min)}
              </li>
            ))}
          </ul>
          <div className="flex flex-wrap justify-end gap-3">
            <Button
              onClick={() => {
                facts.note({ event: 'day begun' }, 'Cooking begins');
                setIsBeginning(false);
              }}
            >
              No, not yet
            </Button>
            <Button
              look="main"
              onClick={() => {
                for (const one of openAhead(found))
                  facts.note(begunOf(one), `${one.says}: begun`, agoOf(found, one));
                facts.note({ event: 'day begun' }, 'Cooking begins');
                setIsBeginning(false);
              }}
            >
              Yes, it was done
            </Button>
          </div>
        </Overlaid>
      ) : null}
      {isSetting && found?.day ? (
        <DayForm batchId={batchId} day={found.day} onClose={() => setIsSetting(false)} />
      ) : null}
    </>
  );
}

/** What begins before the day and nobody has marked. */
const openAhead = ({ order }: Cooking) =>
  (order?.steps ?? []).filter(
    (one) => one.is_ahead && one.begun_min === null && one.start_min < (order?.begins_min ?? 0),
  );

/** How long ago it was to begin [min]; what lies ahead begins now. */
const agoOf = (found: Cooking, step: Schemas['CookStepView']) =>
  Math.max(0, Math.floor(found.now_s / 60) - step.start_min);

type ToShow = Found0 & {
  toldAt: number;
  facts: ReturnType<typeof useFacts>;
  refresh: () => void;
  paper: Paper;
  /** Change the steps of a component. */
  onSteps: ((componentId: string) => void) | undefined;
};
type Paper = 'run sheet' | 'log';
type Found0 = { found: Cooking; batchId: string; version: number };

function Found({ found, batchId, version, toldAt, facts, refresh, paper, onSteps }: ToShow) {
  return (
    <>
      <div className="print:hidden space-y-3 empty:hidden">
        {found.impossible.length ? (
          <Notice tone="alert" title={`Not possible in ${found.kitchen?.name}`}>
            <ul>
              {found.impossible.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </Notice>
        ) : null}
        {found.trouble ? (
          <Notice tone="alert" title="There is no order of work">
            <p>{found.trouble}</p>
          </Notice>
        ) : null}
        {found.late ? (
          <Notice tone="caution">
            <p>{found.late}</p>
          </Notice>
        ) : null}
        {found.asks.length ? (
          <Notice tone="caution" title="Steps that say too little">
            <ul>
              {found.asks.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </Notice>
        ) : null}
      </div>
      {found.order && found.live ? (
        <Going
          found={found}
          order={found.order}
          live={found.live}
          toldAt={toldAt}
          facts={facts}
          refresh={refresh}
          batchId={batchId}
          paper={paper}
          onSteps={onSteps}
        />
      ) : found.order?.steps.length ? (
        <OrderShown
          found={found}
          order={found.order}
          batchId={batchId}
          version={version}
          facts={facts}
          onSteps={onSteps}
        />
      ) : found.trouble || found.impossible.length ? null : (
        <Empty title="Nothing is left to cook">
          <p>All that is cooked of this batch is weighed.</p>
        </Empty>
      )}
    </>
  );
}

/** The day by the clock of the kitchen; what is overdue is asked for anew. */
function Going({
  found,
  order,
  live,
  toldAt,
  facts,
  refresh,
  batchId,
  paper,
  onSteps,
}: Omit<ToShow, 'version'> & { order: Order; live: Schemas['LiveView'] }) {
  const nowS = useDayClock(found.now_s, toldAt);
  const sinceS = nowS - found.now_s;
  const latest = useRef(refresh);
  latest.current = refresh;
  const isOld = sinceS > ANEW_AFTER_S;
  useEffect(() => {
    if (isOld) latest.current();
  }, [isOld]);
  return (
    <>
      <LiveDay
        found={found}
        order={order}
        live={live}
        nowS={nowS}
        waiting={facts.toHandIn}
        note={facts.note}
        last={facts.last}
        takeBack={facts.takeBack}
        onSteps={onSteps}
      />
      <DayLog batchId={batchId} noted={live.noted} isPrinted={paper === 'log'} takeBack={facts.takeBack} />
      {paper === 'run sheet' ? <RunSheet found={found} order={order} /> : null}
    </>
  );
}

const ANEW_AFTER_S = 60;

/** When the newest answer came, by the clock that only goes forward. */
function useToldAt(updatedAt: number): number {
  const told = useRef({ updatedAt: -1, at: 0 });
  if (told.current.updatedAt !== updatedAt) told.current = { updatedAt, at: performance.now() };
  return told.current.at;
}
