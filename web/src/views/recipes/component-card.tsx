import { type KeyboardEvent, useEffect, useRef } from 'react';
import type { Schemas } from '~/lib/api';
import { grams, lossWords, percent, yieldWords } from '~/lib/format';
import { Button } from '~/parts/button';
import { Choice, Field } from '~/parts/field';
import { FoodPicker } from '~/parts/food-picker';
import { Composition } from '~/parts/macros';
import { Notice } from '~/parts/notice';
import { YieldRibbon } from '~/parts/yield-ribbon';
import { type ComponentDraft, type LineDraft, newLine } from '~/views/recipes/draft';

type Props = {
  pointer: string;
  draft: ComponentDraft;
  view: Schemas['ComponentView'] | undefined;
  words: Schemas['RecipeWords'];
  fault: (pointer: string) => string | null;
  onChange: (part: Partial<ComponentDraft>) => void;
  onRemove: () => void;
};

const asOption = (value: string) => ({ value, label: value === 'none' ? 'not cooked' : value });

/** One component of a recipe: its lines at the left, what comes out of them at the right. */
export function ComponentCard({ pointer, draft, view, words, fault, onChange, onRemove }: Props) {
  const added = useRef<string | null>(null);
  const name = draft.name || 'this component';
  const changeLine = (place: number, part: Partial<LineDraft>) =>
    onChange({ lines: draft.lines.map((line, at) => (at === place ? { ...line, ...part } : line)) });
  const add = (food: Schemas['FoodBrief']) => {
    const line = newLine(food);
    added.current = line.key;
    onChange({ lines: [...draft.lines, line] });
  };
  return (
    <li className="grid gap-5 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-[minmax(0,1fr)_260px]">
      <div>
        <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-[minmax(0,2fr)_1fr_1fr_104px_104px_auto]">
          <Field
            label="Component"
            value={draft.name}
            onChange={(event) => onChange({ name: event.target.value })}
            fault={fault(`${pointer}/name`)}
          />
          <Choice
            label="On the plate"
            value={draft.role}
            onChange={(event) => onChange({ role: event.target.value })}
            options={words.roles.map(asOption)}
            fault={fault(`${pointer}/role`)}
          />
          <Choice
            label="Cooked"
            value={draft.method}
            onChange={(event) => onChange({ method: event.target.value })}
            options={words.methods.map(asOption)}
            fault={fault(`${pointer}/method`)}
          />
          <Field
            label="At least"
            unit="g"
            inputMode="decimal"
            value={draft.minimum_g}
            onChange={(event) => onChange({ minimum_g: event.target.value })}
            fault={fault(`${pointer}/minimum_g`)}
          />
          <Field
            label="At most"
            unit="g"
            inputMode="decimal"
            value={draft.maximum_g}
            onChange={(event) => onChange({ maximum_g: event.target.value })}
            fault={fault(`${pointer}/maximum_g`)}
          />
          <Button look="quiet" onClick={onRemove} aria-label={`Remove ${name}`}>
            Remove
          </Button>
        </div>
        {draft.lines.length > 0 ? (
          <table className="mt-3 w-full">
            <thead>
              <tr className="text-left text-sm text-muted">
                <th className="py-1 font-medium">Ingredient</th>
                <th className="w-32 py-1 pr-2 text-right font-medium">Bought</th>
                <th className="w-24 py-1 pr-2 text-right font-medium">Trimmed</th>
                <th className="w-24 py-1 pr-2 text-right font-medium">Stays in</th>
                <th className="w-32 py-1 pr-2 text-right font-medium">Yield</th>
                <th className="w-20 py-1 text-right font-medium">Cooked</th>
                <th className="w-12 py-1">
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {draft.lines.map((line, place) => (
                <LineRow
                  key={line.key}
                  pointer={`${pointer}/lines/${place}`}
                  line={line}
                  view={view?.lines[place]?.food.id === line.food.id ? view.lines[place] : undefined}
                  fault={fault}
                  fresh={added.current === line.key}
                  onChange={(part) => changeLine(place, part)}
                  onRemove={() => onChange({ lines: draft.lines.filter((_, at) => at !== place) })}
                />
              ))}
            </tbody>
          </table>
        ) : (
          <p className="mt-4 text-muted">Nothing in it yet. Add the first ingredient with its raw weight.</p>
        )}
        <div className="mt-3">
          <FoodPicker label={`Add an ingredient to ${name}`} onPick={add} />
        </div>
      </div>
      <Outcome pointer={pointer} draft={draft} view={view} fault={fault} onChange={onChange} />
    </li>
  );
}

function LineRow({
  pointer,
  line,
  view,
  fault,
  fresh,
  onChange,
  onRemove,
}: {
  pointer: string;
  line: LineDraft;
  view: Schemas['LineView'] | undefined;
  fault: (pointer: string) => string | null;
  fresh: boolean;
  onChange: (part: Partial<LineDraft>) => void;
  onRemove: () => void;
}) {
  const weight = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (fresh) weight.current?.focus();
  }, [fresh]);
  // Enter goes on to the next ingredient's weight instead of saving a half-typed recipe.
  const next = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    const row = event.currentTarget.closest('tr')?.nextElementSibling;
    const field = row?.querySelector('input') ?? row?.parentElement?.querySelector('input');
    const add = event.currentTarget.closest('li')?.querySelector<HTMLElement>('[aria-haspopup="dialog"]');
    (field ?? add)?.focus();
  };
  const offered = view?.offered_refuse.find(
    (one) => Math.round(one.refuse_share * 100) !== Number(line.refuse),
  );
  const { food } = line;
  return (
    <tr className="border-t border-steel align-top">
      <th scope="row" className="py-2 pr-3 text-left font-normal">
        <span className="font-semibold">{food.name}</span>{' '}
        <span className="text-sm text-muted">
          {food.state}
          {food.method ? `, ${food.method}` : ''}
        </span>
        {food.weak ? (
          <span className="ml-2 rounded border border-edge px-1 text-xs">weak figures</span>
        ) : null}
        {offered ? (
          <span className="block text-sm text-muted">
            {percent(offered.refuse_share)} goes off {offered.note ? `(${offered.note})` : 'as bought'}.{' '}
            <button
              type="button"
              className="min-h-6 font-medium text-ink underline"
              onClick={() => onChange({ refuse: String(Math.round(offered.refuse_share * 1000) / 10) })}
            >
              Take it off
            </button>
          </span>
        ) : null}
      </th>
      <td className="py-1 pr-2">
        <Field
          ref={weight}
          label={`${food.name}, bought`}
          hideLabel
          unit="g"
          inputMode="decimal"
          value={line.purchased_g}
          onKeyDown={next}
          onChange={(event) => onChange({ purchased_g: event.target.value })}
          fault={fault(`${pointer}/purchased_g`)}
        />
      </td>
      <td className="py-1 pr-2">
        <Field
          label={`${food.name}, trimmed off`}
          hideLabel
          unit="%"
          inputMode="decimal"
          value={line.refuse}
          onChange={(event) => onChange({ refuse: event.target.value })}
          fault={fault(`${pointer}/refuse_share`)}
        />
      </td>
      <td className="py-1 pr-2">
        <Field
          label={`${food.name}, stays in the food`}
          hideLabel
          unit="%"
          inputMode="decimal"
          value={line.retained}
          onChange={(event) => onChange({ retained: event.target.value })}
          fault={fault(`${pointer}/retained_share`)}
        />
      </td>
      <td className="py-1 pr-2">
        <Field
          label={`${food.name}, yield`}
          hideLabel
          unit="×"
          inputMode="decimal"
          placeholder={view ? `~${view.expected.expected.toFixed(2)}` : ''}
          title={
            view ? `${view.expected.source}${view.expected.note ? `: ${view.expected.note}` : ''}` : undefined
          }
          value={line.yield_factor}
          onChange={(event) => onChange({ yield_factor: event.target.value })}
          fault={fault(`${pointer}/yield_factor`)}
        />
        {view ? <p className="mt-0.5 text-right text-xs text-muted">{view.expected.source}</p> : null}
      </td>
      <td className="figures py-3 text-right whitespace-nowrap">{view ? `${grams(view.cooked_g)} g` : ''}</td>
      <td className="py-1 text-right">
        <Button look="quiet" className="!px-2.5" aria-label={`Remove ${food.name}`} onClick={onRemove}>
          ×
        </Button>
      </td>
    </tr>
  );
}

function Outcome({ pointer, draft, view, fault, onChange }: Omit<Props, 'words' | 'onRemove'>) {
  const figures = view?.figures;
  return (
    <div className="space-y-4 lg:border-l lg:border-steel lg:pl-5">
      {figures ? (
        <>
          <YieldRibbon
            basis={figures.basis_g}
            low={figures.cooked_low_g}
            cooked={figures.cooked_g}
            high={figures.cooked_high_g}
            factor={figures.yield_factor}
            measured={false}
          />
          <p className="text-sm text-muted">
            Yield {yieldWords(figures.yield_factor)}, {lossWords(figures.yield_factor)}; usually{' '}
            {grams(figures.cooked_low_g)} to {grams(figures.cooked_high_g)} g cooked. Weigh the pan to know.
          </p>
          <Composition amounts={figures.per_100g} caption="100 g cooked hold about" />
        </>
      ) : (
        <p className="text-sm text-muted">
          {draft.lines.length
            ? (view?.trouble ?? 'Type the weights, and the figures follow.')
            : 'No figures yet.'}
        </p>
      )}
      <details className="text-sm">
        <summary className="min-h-8 font-medium">Own yield of the whole component</summary>
        <div className="mt-2 grid grid-cols-3 gap-2">
          <Field
            label="Low ×"
            value={draft.yield_low}
            onChange={(event) => onChange({ yield_low: event.target.value })}
            fault={fault(`${pointer}/yield_low`)}
          />
          <Field
            label="Usual ×"
            value={draft.yield_expected}
            onChange={(event) => onChange({ yield_expected: event.target.value })}
            fault={fault(`${pointer}/yield_expected`) ?? fault(`${pointer}/yield`)}
          />
          <Field
            label="High ×"
            value={draft.yield_high}
            onChange={(event) => onChange({ yield_high: event.target.value })}
            fault={fault(`${pointer}/yield_high`)}
          />
        </div>
        <p className="mt-1 text-muted">
          On the raw weight without water, oil and seasoning. Empty: from the lines.
        </p>
      </details>
      {view?.caution ? <Notice tone="caution">{view.caution}</Notice> : null}
    </div>
  );
}
