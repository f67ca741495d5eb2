import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Schemas } from '~/api/client';
import { day } from '~/lib/format';
import { Button, buttonClass } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { lengthWords, timeOfDay, timeWords } from '~/views/batch/cook/clock';
import { DayForm } from '~/views/batch/cook/day-form';
import { HelperWords } from '~/views/batch/cook/helper';
import { Lanes } from '~/views/batch/cook/lanes';
import { LiveDay } from '~/views/batch/cook/live';
import { DayLog } from '~/views/batch/cook/log';
import { calendarOf } from '~/views/batch/cook/queries';
import { allowSound } from '~/views/batch/cook/ring';
import { RunSheet } from '~/views/batch/cook/run-sheet';
import { StepDetail } from '~/views/batch/cook/step-detail';
import { StepsDialog } from '~/views/batch/cook/steps-dialog';
import { useDayClock } from '~/views/batch/cook/use-day-clock';
import { useFacts } from '~/views/batch/cook/use-facts';
import { type Fact, withFacts } from '~/views/batch/cook/waiting';
import { cookingQuery } from '~/views/batch/frame/queries';
import { StageLine } from '~/views/batch/frame/stage-line';
import { usePlan } from '~/views/batch/frame/use-plan';
import { useStages } from '~/views/batch/frame/use-stages';

type Cooking = Schemas['CookView'];
type Order = Schemas['OrderView'];

/** The order of work of a batch: what is begun when, on what, by whom, and when all is ready to fill. */
export function CookPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/cook' });
  const goTo = useStages(batchId);
  const desk = usePlan(batchId);
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
  const refresh = () => void queries.invalidateQueries({ queryKey: ['plans', batchId, 'cooking'] });
  const facts = useFacts(batchId, refresh);
  useToldOf(batchId, refresh);
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
              <Button onClick={() => setIsSetting(true)}>Set the day</Button>
              {found.order ? <Button onClick={() => print('run sheet')}>Print the run sheet</Button> : null}
              {found.order && !found.live ? (
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
            onSteps={setChanged}
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

const begunOf = (step: Schemas['CookStepView']): Fact => ({ event: 'begun', task: step.key });

/** How long ago it was to begin [min]; what lies ahead begins now. */
const agoOf = (found: Cooking, step: Schemas['CookStepView']) =>
  Math.max(0, Math.floor(found.now_s / 60) - step.start_min);

type ToShow = Found0 & {
  toldAt: number;
  facts: ReturnType<typeof useFacts>;
  refresh: () => void;
  paper: Paper;
  /** Change the steps of a component. */
  onSteps: (componentId: string) => void;
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

type Shown = Found0 & { order: Order };

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
        waiting={facts.waiting.length}
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

/** Other tablets tell what was noted on them, within a second. */
function useToldOf(batchId: string, onTold: () => void) {
  const latest = useRef(onTold);
  latest.current = onTold;
  useEffect(() => {
    const source = new EventSource(`/api/v1/batches/${batchId}/events`);
    source.onmessage = (event: MessageEvent<string>) => {
      const { cooked } = JSON.parse(event.data) as { cooked?: number };
      if (cooked) latest.current();
    };
    return () => source.close();
  }, [batchId]);
}

function OrderShown({
  found,
  order,
  batchId,
  version,
  facts,
  onSteps,
}: Shown & Pick<ToShow, 'facts' | 'onSteps'>) {
  const [chosen, setChosen] = useState<string | null>(null);
  const ahead = order.steps.filter((step) => step.is_ahead && step.start_min < order.begins_min);
  const step = order.steps.find((one) => one.key === chosen);
  const until = Math.max(order.ready_min, ...order.steps.map((one) => one.end_min + one.rest_min));
  return (
    <>
      <div className="print:hidden mt-3 grid items-start gap-4 lg:grid-cols-[minmax(0,21rem)_minmax(0,1fr)]">
        <div className="min-w-0 space-y-4">
          {ahead.length ? (
            <Ahead steps={ahead} onBegun={(one) => facts.note(begunOf(one), `${one.says}: begun`)} />
          ) : null}
          {step ? <StepDetail step={step} onSteps={onSteps} /> : <First order={order} found={found} />}
          <Upcoming order={order} onChoose={setChosen} />
        </div>
        <section aria-label="The day" className="min-w-0 rounded-xl border border-steel bg-sheet p-4">
          <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-4">
            <h2 className="text-2xl">Ready to fill at {timeWords(order.ready_min)}</h2>
            <p className="text-muted">
              {order.spare_min === 0
                ? 'Shortest order proven.'
                : `Another order could be at most ${order.spare_min} min shorter.`}
            </p>
          </div>
          <Lanes
            lanes={order.lanes}
            from={order.begins_min}
            until={until}
            chosen={chosen}
            onChoose={(task) => setChosen(task === chosen ? null : task)}
          />
          <DayWords found={found} order={order} batchId={batchId} version={version} />
        </section>
      </div>
      <RunSheet found={found} order={order} />
    </>
  );
}

/** What each person begins with. */
function First({ order, found }: { order: Order; found: Cooking }) {
  const people = found.kitchen?.people ?? [];
  const first = people.flatMap((person) => {
    const prompt = order.prompts.find((one) => one.person_id === person.id && one.at_min >= order.begins_min);
    return prompt ? [{ person, prompt }] : [];
  });
  return first.map(({ person, prompt }, index) => (
    <section
      key={person.id}
      aria-label={`First, ${person.name}`}
      className="rounded-xl border border-steel bg-sheet p-4"
    >
      <p className="text-muted">
        First, {person.name}, <span className="figures">{timeOfDay(prompt.at_min)}</span>
      </p>
      <h2 className={index ? 'text-xl' : 'text-3xl'}>{prompt.says}</h2>
      {prompt.detail ? <p className="mt-1">{prompt.detail}</p> : null}
      <p className="mt-1 text-muted">{lengthWords(prompt.minutes)}</p>
    </section>
  ));
}

function Ahead({
  steps,
  onBegun,
}: {
  steps: Schemas['CookStepView'][];
  onBegun: (step: Schemas['CookStepView']) => void;
}) {
  return (
    <Notice tone="caution" title="Before the day">
      <ul>
        {steps.map((one) => (
          <li key={one.key}>
            <span className="figures">{timeWords(one.start_min)}</span>: {one.says} ({one.component}){' '}
            {one.begun_min === null ? (
              <Button look="quiet" className="!px-0 underline" onClick={() => onBegun(one)}>
                It is begun
              </Button>
            ) : (
              <b>begun</b>
            )}
          </li>
        ))}
      </ul>
    </Notice>
  );
}

const MOST_UPCOMING = 8;

/** What comes after each other, for everybody. */
function Upcoming({ order, onChoose }: { order: Order; onChoose: (task: string) => void }) {
  const [isWhole, setIsWhole] = useState(false);
  const prompts = order.prompts.filter((one) => one.at_min >= order.begins_min);
  const shown = isWhole ? prompts : prompts.slice(0, MOST_UPCOMING);
  return (
    <section aria-label="One after the other" className="rounded-xl border border-steel bg-sheet px-4 py-2">
      <ol className="divide-y divide-steel">
        {shown.map((one) => (
          <li key={one.key}>
            <button
              type="button"
              className="flex min-h-11 w-full items-baseline gap-3 py-1.5 text-left hover:bg-bench"
              onClick={() => onChoose(one.task)}
            >
              <span className="figures font-semibold">{timeOfDay(one.at_min)}</span>
              <span className="min-w-0">{one.says}</span>
            </button>
          </li>
        ))}
      </ol>
      {prompts.length > MOST_UPCOMING ? (
        <Button look="quiet" className="!px-0" onClick={() => setIsWhole(!isWhole)}>
          {isWhole ? 'Fewer' : `All ${prompts.length}`}
        </Button>
      ) : null}
    </section>
  );
}

/** What the order rests on, and what a helper would change. */
function DayWords({ found, order, batchId, version }: Shown) {
  const whole = order.ready_min - order.begins_min;
  return (
    <div className="mt-3 space-y-1 border-t border-steel pt-3">
      <p>
        {found.kitchen?.name}, from {timeWords(order.begins_min)}: {lengthWords(whole)} in all,{' '}
        {lengthWords(order.hands_min)} of hands. One step after the other it would be{' '}
        {lengthWords(order.apart_min)}.
      </p>
      {found.day?.assumed.length ? (
        <p className="text-ochre-text">
          Assumed: {found.day.assumed.join(' ')} Set the day to say otherwise.
        </p>
      ) : null}
      <HelperWords batchId={batchId} version={version} />
      <p className="text-sm text-muted">
        Times are a plan and not a proof: doneness, the thermometer and local food rules decide.
      </p>
    </div>
  );
}
