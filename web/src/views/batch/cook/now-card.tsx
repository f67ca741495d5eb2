import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { inWords, timeOfDay } from '~/views/batch/cook/clock';
import { BigButton } from '~/views/batch/cook/timers';

type Prompt = Schemas['PromptView'];

type Card = {
  name: string;
  prompt: Prompt | undefined;
  step: Schemas['CookStepView'] | undefined;
  minute: number;
  isFirst: boolean;
  onDone: (prompt: Prompt) => void;
  onLater: (prompt: Prompt) => void;
  onStop: (prompt: Prompt) => void;
  onSkip: (prompt: Prompt) => void;
  onLonger: (prompt: Prompt) => void;
};

/** What a person does now, large for who is first: done, later, left out. */
export function NowCard({
  name,
  prompt,
  step,
  minute,
  isFirst,
  onDone,
  onLater,
  onStop,
  onSkip,
  onLonger,
}: Card) {
  if (!prompt) return null;
  const isDue = prompt.at_min <= minute;
  return (
    <section
      aria-label={`Now, ${name}`}
      className={`rounded-xl border bg-sheet p-4 ${isDue ? 'border-l-4 border-l-ochre border-steel' : 'border-steel'}`}
    >
      <p className="text-muted">
        {isDue ? 'Now' : `At ${timeOfDay(prompt.at_min)}, ${inWords(prompt.at_min - minute)}`}, {name}
      </p>
      <h2 className={isFirst ? 'text-3xl' : 'text-xl'}>{prompt.says}</h2>
      {prompt.component && !prompt.says.includes(prompt.component) ? <p>{prompt.component}</p> : null}
      {prompt.detail ? <p className="mt-1">{prompt.detail}</p> : null}
      {step?.cautions.length ? (
        <div className="mt-2">
          <Notice tone="caution">
            {step.cautions.map((one) => (
              <p key={one}>{one}</p>
            ))}
          </Notice>
        </div>
      ) : null}
      <div className="mt-3 flex gap-2">
        <BigButton isMain onClick={() => onDone(prompt)}>
          Done {isFirst ? <kbd className="rounded border border-on-bar-muted px-1 text-sm">Space</kbd> : null}
        </BigButton>
        {prompt.goes_on ? (
          <BigButton onClick={() => onLonger(prompt)}>5 more</BigButton>
        ) : (
          <BigButton onClick={() => onLater(prompt)}>
            Later {isFirst ? <kbd className="rounded border border-edge px-1 text-sm">L</kbd> : null}
          </BigButton>
        )}
      </div>
      {prompt.goes_on ? null : (
        <p className="mt-1 flex flex-wrap gap-x-4">
          {isDue && step?.is_hands_on && minute > prompt.at_min ? (
            <Button look="quiet" className="!px-0 text-sm underline" onClick={() => onStop(prompt)}>
              Stop here, the rest later
            </Button>
          ) : null}
          <Button look="quiet" className="!px-0 text-sm underline" onClick={() => onSkip(prompt)}>
            Leave it out
          </Button>
        </p>
      )}
    </section>
  );
}
