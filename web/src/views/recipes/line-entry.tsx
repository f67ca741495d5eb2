import { useMutation } from '@tanstack/react-query';
import { type KeyboardEvent, useRef, useState } from 'react';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { MacroLine } from '~/food/macros';
import { weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { call, wish } from '~/offline/writes';
import { Button } from '~/parts/button';
import { WeightField } from '~/parts/weight-field';
import {
  type Asked,
  type LineDraft,
  lineOf,
  newLine,
  type StepDraft,
  sorted,
  stepDraft,
} from '~/views/recipes/draft';

/**
 * Where ingredients are written: a line and Enter, then the next. What is clear goes straight into the recipe;
 * what is not stays below with the question, and nothing is dropped.
 */
export function LineEntry({
  label,
  autoFocus,
  asked,
  onRead,
  onSteps,
}: {
  label: string;
  /** It was asked for just now: typing goes on in it. */
  autoFocus: boolean;
  asked: Asked[];
  /** New lines, and what is still asked from then on. */
  onRead: (lines: LineDraft[], asked: (before: Asked[]) => Asked[]) => void;
  onSteps: (steps: StepDraft[]) => void;
}) {
  const [text, setText] = useState('');
  const field = useRef<HTMLTextAreaElement>(null);
  const typed = useRef('');
  /** Whether Enter was pressed while a line was being read: what was typed on is read after it. */
  const entered = useRef(false);
  const write = (value: string) => {
    typed.current = value;
    setText(value);
  };
  const read = useMutation({
    mutationFn: (sent: string) => ask(api.POST('/api/v1/recipes/read', { body: { text: sent } })),
    onSuccess: (found, sent) => {
      const { lines, asked: open } = sorted(found.lines);
      onRead(lines, (before) => [...before, ...open]);
      if (found.steps.length) onSteps(found.steps.map(stepDraft));
      const now = typed.current;
      const rest = now.startsWith(sent) ? now.slice(sent.length).replace(/^\n/, '') : now;
      write(rest);
      const whole = entered.current ? rest.slice(0, Math.max(rest.lastIndexOf('\n'), 0)) : '';
      entered.current = false;
      if (whole.trim()) read.mutate(whole);
    },
  });
  const submit = () => {
    entered.current = false;
    if (text.trim() && !read.isPending) read.mutate(text);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLTextAreaElement>) => {
    if (event.key === 'Enter' && !event.shiftKey) {
      if (read.isPending) {
        entered.current = true;
        return;
      }
      event.preventDefault();
      submit();
    }
  };
  const settle = (proposal: Asked, line: LineDraft | null) => {
    onRead(line ? [line] : [], (before) => before.filter((one) => one.key !== proposal.key));
    field.current?.focus();
  };
  return (
    <div>
      <div className="mt-3 flex items-start gap-2">
        <label className="min-w-0 flex-1">
          <span className="sr-only">{label}</span>
          <textarea
            ref={field}
            data-entry
            // biome-ignore lint/a11y/noAutofocus: it was opened to be typed in
            autoFocus={autoFocus}
            rows={Math.min(Math.max(text.split('\n').length, 1), 10)}
            value={text}
            onChange={(event) => write(event.target.value)}
            onKeyDown={onKeyDown}
            placeholder="1.2 kg turkey mince, 93 % lean – Enter, next line. Or paste a list."
            className="min-h-11 w-full resize-none rounded-lg border border-edge bg-sheet px-3 py-2.5 placeholder:text-muted"
          />
        </label>
        <Button onClick={submit} disabled={!text.trim() || read.isPending}>
          {read.isPending ? 'Reading …' : 'Add'}
        </Button>
      </div>
      {read.isError ? (
        <p role="alert" className="mt-1 text-sm font-medium text-alert">
          {toProblem(read.error).detail}
        </p>
      ) : null}
      {asked.length ? (
        <ul aria-label="Lines to answer" className="mt-3 space-y-3">
          {asked.map((proposal, place) => (
            <Question
              key={proposal.key}
              proposal={proposal}
              // Whoever types on keeps the cursor.
              autoFocus={place === 0 && !text}
              onSettle={(line) => settle(proposal, line)}
            />
          ))}
        </ul>
      ) : null}
    </div>
  );
}

/** What a line leaves open: which food, or how many grams. The answer about the food is remembered. */
function Question({
  proposal,
  autoFocus,
  onSettle,
}: {
  proposal: Asked;
  autoFocus: boolean;
  onSettle: (line: LineDraft | null) => void;
}) {
  const sureFood = !proposal.flags.some((flag) => flag === 'unsure-food' || flag === 'unknown-food');
  const [food, setFood] = useState<Schemas['FoodBrief'] | null>(
    sureFood ? (proposal.matches[0]?.food ?? null) : null,
  );
  // Of a number that can be read in two ways the likelier is offered, to be taken with Enter.
  const [grams, setGrams] = useState(
    proposal.flags.includes('two-readings') && proposal.grams
      ? asWeight(Math.round(proposal.grams * 10) / 10)
      : '',
  );
  const [trouble, setTrouble] = useState(proposal.trouble);
  const answer = useMutation({
    // A cup or a piece weighs what it weighs of the chosen food, so the line is read again with it.
    mutationFn: async (chosen: Schemas['FoodBrief']) => {
      if (!sureFood)
        wish(
          call('post', '/api/v1/recipes/answers', { body: { words: proposal.words, food_id: chosen.id } }),
          {
            about: 'answers',
            words: [`“${proposal.words}” is ${chosen.name}`],
            href: '/recipes',
          },
        );
      const read = await ask(
        api.POST('/api/v1/recipes/read', { body: { text: proposal.text, food_id: chosen.id } }),
      );
      const line = read.lines[0];
      return { chosen, grams: line && !line.asks ? line.grams : null, trouble: line?.trouble ?? '' };
    },
    onSuccess: ({ chosen, grams: found, trouble: why }) => {
      if (found !== null) onSettle(lineOf(proposal, chosen, found));
      else {
        setFood(chosen);
        setTrouble(why);
      }
    },
  });
  const take = (chosen: Schemas['FoodBrief']) => answer.mutate(chosen);
  const typed = readWeight(grams);
  const finish = () => {
    if (food && typed.value !== null && !typed.fault)
      onSettle(newLine({ food, purchased_g: grams, text: proposal.text }));
  };
  return (
    <li className="rounded-lg border border-steel border-l-4 border-l-ochre bg-sheet p-3">
      <p>
        “{proposal.text}”{' '}
        <strong>{food === null ? 'Which food is it?' : `How much ${food.name} is it?`}</strong>
      </p>
      {food === null ? (
        <div className="mt-2 flex flex-wrap gap-2">
          {proposal.matches.slice(0, 5).map((match, place) => (
            <button
              key={match.food.id}
              type="button"
              // biome-ignore lint/a11y/noAutofocus: the question follows from the line just typed
              autoFocus={autoFocus && place === 0}
              onClick={() => take(match.food)}
              className="min-h-11 rounded-lg border border-steel bg-sheet px-3 py-1.5 text-left hover:border-edge"
            >
              <span className="font-medium">{match.food.name}</span>{' '}
              <span className="text-sm text-muted">
                {match.food.state}
                {match.food.method ? `, ${match.food.method}` : ''}
              </span>
              <span className="block text-sm">
                <MacroLine amounts={match.food.per_100g} />
              </span>
            </button>
          ))}
          <FoodPicker label="Another food" onPick={take} />
        </div>
      ) : null}
      {food !== null ? (
        <div className="mt-2 flex flex-wrap items-start gap-2">
          <p className="w-full text-sm text-muted">{trouble}</p>
          <div className="w-44">
            <WeightField
              label={`${food.name}, weight`}
              hideLabel
              // A question further down must not take the cursor from the first.
              autoFocus={autoFocus || !sureFood}
              value={grams}
              onText={setGrams}
              fault={typed.fault}
              onKeyDown={(event) => {
                if (event.key === 'Enter') {
                  event.preventDefault();
                  finish();
                }
              }}
            />
          </div>
          <Button disabled={typed.value === null} onClick={finish}>
            Add it
          </Button>
        </div>
      ) : null}
      {answer.isError ? (
        <p role="alert" className="mt-1 text-sm font-medium text-alert">
          {toProblem(answer.error).detail}
        </p>
      ) : null}
      <p className="mt-1 flex justify-between text-sm text-muted">
        <span>
          {proposal.grams ? `${weight(proposal.grams)}${proposal.how ? `, ${proposal.how}` : ''}` : ''}
        </span>
        <button type="button" className="min-h-8 underline" onClick={() => onSettle(null)}>
          Leave it out
        </button>
      </p>
    </li>
  );
}
