import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { lengthWords, timeOfDay, timeWords } from '~/views/batch/cook/clock';
import { HelperWords } from '~/views/batch/cook/helper';
import { Lanes } from '~/views/batch/cook/lanes';
import { RunSheet } from '~/views/batch/cook/run-sheet';
import { StepDetail } from '~/views/batch/cook/step-detail';
import { begunOf, type useFacts } from '~/views/batch/cook/use-facts';

type Cooking = Schemas['CookView'];
type Order = Schemas['OrderView'];
type Props = {
  found: Cooking;
  order: Order;
  batchId: string;
  version: number;
  facts: ReturnType<typeof useFacts>;
  /** Change the steps of a component. */
  onSteps: ((componentId: string) => void) | undefined;
};

/** A day that nobody has begun: its order over lanes, what each begins with, and what it rests on. */
export function OrderShown({ found, order, batchId, version, facts, onSteps }: Props) {
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
function DayWords({ found, order, batchId, version }: Omit<Props, 'facts' | 'onSteps'>) {
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
