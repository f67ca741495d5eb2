import type { ReactNode } from 'react';
import type { Schemas } from '~/api/client';
import { plural, weight } from '~/lib/format';
import { temperature } from '~/lib/units';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { lengthWords, timeWords } from '~/views/batch/cook/clock';

type Step = Schemas['CookStepView'];

/** What is done on, how hot, how much, in a few words. */
export function whereWords(step: Step): string {
  return [
    step.on,
    step.temperature_c === null ? '' : temperature(step.temperature_c),
    step.rounds > 1
      ? `round ${step.round} of ${step.rounds}, ${
          step.pieces ? `${plural(step.pieces, 'piece')}, ` : ''
        }${weight(step.grams)}`
      : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** One step: when, on what, how one sees that it is done, and what could hurt somebody. */
export function StepDetail({
  step,
  onSteps,
  children,
}: {
  step: Step;
  onSteps: ((componentId: string) => void) | undefined;
  children?: ReactNode;
}) {
  const core = step.core_c === null ? '' : `${temperature(step.core_c)} in the thickest part`;
  const done = [step.done_when, step.done_when.includes(core.split(' in ')[0] ?? '') ? '' : core]
    .filter(Boolean)
    .join(', ');
  return (
    <section aria-label={step.says} className="rounded-xl border border-steel bg-sheet p-4">
      <p className="text-sm text-muted">{step.component}</p>
      <h2 className="text-xl">{step.says}</h2>
      <p className="mt-1">
        <span className="figures">
          {timeWords(step.start_min)} to {timeWords(step.end_min)}
        </span>
        , {lengthWords(step.end_min - step.start_min)}
        {step.rest_min ? `, then ${step.rest_min} min rest` : ''}
        {whereWords(step) ? `. ${whereWords(step)}` : ''}
      </p>
      {done ? <p className="mt-1">Done when: {done}</p> : null}
      {step.until_g === null ? null : (
        <p className="mt-1">Until {weight(step.until_g)} are in the pan, weighed without it.</p>
      )}
      {step.proposed || step.assumed.length ? (
        <p className="mt-2 text-sm text-ochre-text">
          {step.proposed ? `Proposed, nobody wrote it: ${step.proposed}. ` : ''}
          {step.assumed.length ? `Assumed: ${step.assumed.join('; ')}.` : ''}
        </p>
      ) : null}
      {step.cautions.length ? (
        <div className="mt-3">
          <Notice tone="caution">
            <ul>
              {step.cautions.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
          </Notice>
        </div>
      ) : null}
      {step.component_id && onSteps ? (
        <Button
          look="quiet"
          className="mt-2 !px-0 underline"
          onClick={() => onSteps(step.component_id ?? '')}
        >
          Change the steps of {step.component}
        </Button>
      ) : null}
      {children}
    </section>
  );
}
