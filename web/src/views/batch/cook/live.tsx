import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { useShortcut } from '~/lib/keys';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { inWords, lengthWords, timeOfDay, timeWords } from '~/views/batch/cook/clock';
import { Cooling } from '~/views/batch/cook/cooling';
import { CoreDialog } from '~/views/batch/cook/core-dialog';
import { HoldAt } from '~/views/batch/cook/hold-at';
import { Lanes } from '~/views/batch/cook/lanes';
import { MinutesDialog } from '~/views/batch/cook/minutes-dialog';
import { NowCard } from '~/views/batch/cook/now-card';
import { allowSound, isSoundAllowed } from '~/views/batch/cook/ring';
import { Scales } from '~/views/batch/cook/scale';
import { StepDetail } from '~/views/batch/cook/step-detail';
import { Timers } from '~/views/batch/cook/timers';
import { useAwake } from '~/views/batch/cook/use-awake';
import type { Mark } from '~/views/batch/cook/use-facts';
import type { Fact } from '~/views/batch/cook/waiting';

type Prompt = Schemas['PromptView'];
type Order = Schemas['OrderView'];
type Live = Schemas['LiveView'];

const CAPTION = 'While cooking';
const DONE = { caption: CAPTION, key: ' ', words: 'done, for who is first' } as const;
const LATER = { caption: CAPTION, key: 'l', words: 'later' } as const;
const NEXT = { caption: CAPTION, key: 'arrowdown', words: 'the next person' } as const;
const BEFORE = { caption: CAPTION, key: 'arrowup', words: 'the person before' } as const;
const BACK = { caption: CAPTION, key: 'u', words: 'take back what was noted last' } as const;
const TIMER = { caption: CAPTION, key: 't', words: 'a timer' } as const;

const LATER_MIN = 5;
const MOST_NEXT = 6;

type Props = {
  found: Schemas['CookView'];
  order: Order;
  live: Live;
  nowS: number;
  waiting: number;
  note: (fact: Fact, words: string) => void;
  /** What was noted here last, to be taken back. */
  last: Mark | undefined;
  takeBack: (mark: Mark) => void;
  /** Change the steps of a component. */
  onSteps: ((componentId: string) => void) | undefined;
};

/** A cook day that goes on: what to do now, what comes next, and every timer. */
export function LiveDay({ found, order, live, nowS, waiting, note, last, takeBack, onSteps }: Props) {
  const minute = Math.floor(nowS / 60);
  const people = found.kitchen?.people ?? [];
  const [chosen, setChosen] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const [asked, setAsked] = useState<Prompt | null>(null);
  const [isTiming, setIsTiming] = useState(false);
  const [isAdding, setIsAdding] = useState(false);
  const [heard, setHeard] = useState<ReadonlySet<string>>(new Set());
  const [hasSound, setHasSound] = useState(isSoundAllowed());
  const isAwake = useAwake(true);
  const cards = cardsOf(order.prompts, people, minute);
  const current = cards[Math.min(at, cards.length - 1)];

  const finish = (prompt: Prompt, celsius?: number) => {
    void allowSound().then(setHasSound);
    if (celsius !== undefined)
      note(
        { event: 'temperature', task: prompt.component_id ?? '', celsius },
        `${prompt.component}: ${celsius} °C inside`,
      );
    if (celsius !== undefined && celsius < (prompt.core_c ?? 0)) {
      note(
        { event: 'longer', task: prompt.task, minutes: LATER_MIN },
        `${prompt.says}: ${LATER_MIN} more minutes`,
      );
      return;
    }
    note(factOf(prompt, minute), `${prompt.says}: done`);
  };
  const done = (prompt: Prompt) => {
    if (prompt.event === 'done' && prompt.core_c !== null) setAsked(prompt);
    else finish(prompt);
  };
  const later = (prompt: Prompt) =>
    note({ event: 'later', task: prompt.task, minutes: LATER_MIN }, `${prompt.says}: later`);
  const hold = (task: string, at: number) => {
    const of = order.steps.find((one) => one.key === task);
    note({ event: 'held', task, minutes: at }, `${of?.says ?? 'A step'}: held at ${timeOfDay(at)}`);
  };
  useShortcut(DONE, () => current?.prompt && done(current.prompt));
  useShortcut(LATER, () => current?.prompt && later(current.prompt));
  useShortcut(NEXT, () => setAt((now) => Math.min(now + 1, cards.length - 1)));
  useShortcut(BEFORE, () => setAt((now) => Math.max(now - 1, 0)));
  useShortcut(BACK, () => last && takeBack(last));
  useShortcut(TIMER, () => setIsTiming(true));

  const shown = new Set(cards.map(({ prompt }) => prompt?.key));
  const next = order.prompts.filter((one) => !shown.has(one.key)).slice(0, MOST_NEXT);
  const step = order.steps.find((one) => one.key === chosen);
  const late = live.planned_ready_min === null ? 0 : order.ready_min - live.planned_ready_min;
  return (
    <div className="print:hidden space-y-4">
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,23rem)_minmax(0,1fr)]">
        <div className="min-w-0 space-y-4">
          {cards.map(({ person, prompt }, index) => (
            <NowCard
              key={person.id}
              name={person.name}
              prompt={prompt}
              step={order.steps.find((one) => one.key === prompt?.task)}
              minute={minute}
              isFirst={index === at}
              onDone={done}
              onLater={later}
              onStop={(of) => {
                note(
                  { event: 'stopped', task: of.task, minutes: Math.max(0, minute - of.at_min) },
                  `${of.says}: stopped`,
                );
                later(of);
              }}
              onSkip={(of) => note({ event: 'skipped', task: of.task }, `${of.says}: left out`)}
              onLonger={(of) =>
                note(
                  { event: 'longer', task: of.task, minutes: LATER_MIN },
                  `${of.says}: ${LATER_MIN} more minutes`,
                )
              }
            />
          ))}
          {order.prompts.length === 0 ? (
            <section className="rounded-xl border border-steel bg-sheet p-4">
              <h2 className="text-3xl">Everything is done</h2>
              <p className="mt-1">Weigh the pots, then fill.</p>
            </section>
          ) : null}
          {last ? (
            <p className="flex flex-wrap items-center gap-x-3 text-sm text-muted" role="status">
              <span>{last.words}.</span>
              <Button look="quiet" className="!px-0 underline" onClick={() => takeBack(last)}>
                Take it back <kbd className="rounded border border-edge px-1">U</kbd>
              </Button>
            </p>
          ) : null}
          {next.length ? (
            <ol
              aria-label="Next"
              className="divide-y divide-steel rounded-xl border border-steel bg-sheet px-4 py-1"
            >
              {next.map((one) => (
                <li key={one.key} className="flex min-h-12 items-baseline gap-3 py-2">
                  <span className="figures font-semibold">{timeOfDay(one.at_min)}</span>
                  <span className="min-w-0 flex-1">{one.says}</span>
                  {one.at_min <= minute ? (
                    <Button onClick={() => done(one)}>Done</Button>
                  ) : (
                    <span className="figures text-muted">{inWords(one.at_min - minute)}</span>
                  )}
                </li>
              ))}
            </ol>
          ) : null}
        </div>
        <div className="min-w-0 space-y-4">
          <Timers
            timers={live.timers}
            nowS={nowS}
            heard={heard}
            onHeard={(timer) => setHeard((now) => new Set(now).add(timer.key))}
            onLonger={(timer) =>
              note({ event: 'longer', task: timer.task, minutes: 1 }, `${timer.name}: a minute more`)
            }
            onDone={(timer) => note({ event: 'done', task: timer.task }, `${timer.name}: over`)}
          />
          <section aria-label="The day" className="min-w-0 rounded-xl border border-steel bg-sheet p-4">
            <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-4">
              <h2 className="text-2xl">Ready to fill at {timeWords(order.ready_min)}</h2>
              <p className="text-muted">
                {late > 0 ? `${lengthWords(late)} later than planned. ` : ''}
                {late < 0 ? `${lengthWords(-late)} earlier than planned. ` : ''}
                {live.steps_done} of {live.steps} steps done.
              </p>
            </div>
            <Lanes
              lanes={order.lanes}
              from={Math.min(live.begun_min, order.begins_min)}
              until={Math.max(order.ready_min, minute + 15)}
              now={nowS / 60}
              states={statesOf(order.steps)}
              chosen={chosen}
              onChoose={(task) => setChosen(task === chosen ? null : task)}
              onHold={(task, at) => {
                setChosen(task);
                hold(task, at);
              }}
            />
            <p className="mt-2 flex flex-wrap items-center gap-x-4 text-sm text-muted">
              <Button look="quiet" className="!px-0 underline" onClick={() => setIsTiming(true)}>
                Set a timer
              </Button>
              <Button look="quiet" className="!px-0 underline" onClick={() => setIsAdding(true)}>
                Add a step
              </Button>
              {hasSound ? null : (
                <Button
                  look="quiet"
                  className="!px-0 underline"
                  onClick={() => void allowSound().then(setHasSound)}
                >
                  Sound is off in this browser until you press here
                </Button>
              )}
              <span>
                {isAwake ? 'The screen stays on.' : 'This browser may let the screen go dark.'} Keep this page
                in front: behind others it may ring up to a minute late.
              </span>
              {waiting ? <span>{waiting} noted here until the server answers.</span> : null}
            </p>
          </section>
          <Scales scales={live.scales} steps={order.steps} minute={minute} note={note} />
          <Cooling live={live} minute={minute} note={note} />
        </div>
      </div>
      {step ? (
        <StepDetail step={step} onSteps={onSteps}>
          {step.begun_min === null && step.done_min === null ? (
            <HoldAt
              key={`${step.key} ${step.start_min}`}
              step={step}
              onHold={(at) => hold(step.key, at)}
              onFree={() => note({ event: 'freed', task: step.key }, `${step.says}: let go`)}
            />
          ) : null}
        </StepDetail>
      ) : null}
      {found.let_go.length ? (
        <Notice tone="caution" title="Could not stay where it is held">
          <p>
            {found.let_go.join(' ')} Somebody or something it needs is taken then, so it was put elsewhere.
          </p>
        </Notice>
      ) : null}
      {asked ? (
        <CoreDialog
          prompt={asked}
          onRead={(celsius) => {
            finish(asked, celsius);
            setAsked(null);
          }}
          onLonger={(minutes) => {
            note({ event: 'longer', task: asked.task, minutes }, `${asked.says}: ${minutes} more minutes`);
            setAsked(null);
          }}
          onUnread={() => {
            finish(asked);
            setAsked(null);
          }}
          onClose={() => setAsked(null)}
        />
      ) : null}
      {isTiming ? (
        <MinutesDialog
          title="A timer"
          action="Start"
          onClose={() => setIsTiming(false)}
          onSaid={(text, minutes) => note({ event: 'timer', text, minutes }, `A timer for ${text}`)}
        />
      ) : null}
      {isAdding ? (
        <MinutesDialog
          title="One more step"
          action="Put it into the order"
          onClose={() => setIsAdding(false)}
          onSaid={(text, minutes) => note({ event: 'added', text, minutes }, `${text}: added`)}
        />
      ) : null}
    </div>
  );
}

const statesOf = (steps: Schemas['CookStepView'][]) =>
  new Map<string, 'done' | 'going on' | 'to come'>(
    steps.map((one) => [
      one.key,
      one.done_min !== null ? 'done' : one.begun_min !== null ? 'going on' : 'to come',
    ]),
  );

/** What each person does now: the first that is theirs, or nobody's and due. */
function cardsOf(prompts: Prompt[], people: Schemas['KitchenPersonView'][], minute: number) {
  return people
    .filter((person) => prompts.some((one) => one.person_id === person.id))
    .map((person) => ({
      person,
      prompt:
        prompts.find((one) => one.person_id === person.id && one.at_min <= minute) ??
        prompts.find((one) => one.person_id === person.id),
    }))
    .toSorted((one, other) => (one.prompt?.at_min ?? 0) - (other.prompt?.at_min ?? 0));
}

const factOf = (prompt: Prompt, minute: number): Fact => ({
  event: prompt.event,
  task: prompt.task,
  ...(prompt.event === 'done' ? { minutes: Math.max(0, minute - prompt.at_min) } : { touch: prompt.touch }),
  ...(prompt.celsius === null ? {} : { celsius: prompt.celsius }),
  person_id: prompt.person_id,
});
