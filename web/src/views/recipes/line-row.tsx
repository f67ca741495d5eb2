import { type KeyboardEvent, type ReactNode, useState } from 'react';
import { type Control, useWatch } from 'react-hook-form';
import { api, ask, type Schemas } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { MacroLine } from '~/food/macros';
import { exactWeight, percent, weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { ChoiceField, GramsField, TextField, TickField } from '~/parts/form-fields';
import { Why } from '~/parts/why';
import { LineChain } from '~/views/recipes/chain';
import { type LineDraft, lineName, type RecipeDraft } from '~/views/recipes/draft';
import { Findings } from '~/views/recipes/findings';
import { InFields, type Part, Reads, useOpened, useOpener } from '~/views/recipes/opened';

export type Mend = Schemas['MendView'];

type At = `components.${number}.lines.${number}`;
type Props = {
  form: Form<RecipeDraft>;
  at: At;
  view: Schemas['LineView'] | undefined;
  findings: Schemas['FindingView'][];
  /** The line below, to which Enter goes on. */
  next: string | undefined;
  /** Change the line, wherever it stands by then. */
  onChange: (part: Partial<LineDraft>) => void;
  onMend: (mend: Mend) => void;
  onRemove: () => void;
};

const STATES = [
  { value: '', label: 'in the state of its entry' },
  { value: 'raw', label: 'raw' },
  { value: 'dry', label: 'dry' },
  { value: 'cooked', label: 'cooked' },
];

/** One ingredient as it reads: how much, what, what becomes of it; pressed, it turns into fields. */
export function LineRow({ form, at, view, findings, next, onChange, onMend, onRemove }: Props) {
  const { control } = form;
  const line = useWatch({ control, name: at });
  const part = useOpened(control, line.key, at);
  const name = lineName(line);
  const cooked = view ? (
    <Why
      label={`${name}, cooked`}
      figure={
        view.expected.low < view.expected.high ? (
          <span className="text-muted">~{weight(view.cooked_g)}</span>
        ) : (
          exactWeight(view.cooked_g)
        )
      }
    >
      <LineChain line={view} />
    </Why>
  ) : null;
  return (
    <li aria-label={name} className="border-t border-steel">
      {part.isOpen || !line.purchased_g ? (
        <InFields part={part} className="bg-bench px-2 pt-2 pb-3">
          <LineFields {...{ control, at, line, view, part, next, cooked, onChange, onRemove }} />
        </InFields>
      ) : (
        <Reading {...{ line, view, part, cooked, onChange }} />
      )}
      {findings.length ? (
        <div className="pb-2 sm:pl-24">
          <Findings
            findings={findings}
            onMend={onMend}
            onDismiss={(code, reason) => onChange({ dismissed: withReason(line.dismissed, code, reason) })}
          />
        </div>
      ) : null}
    </li>
  );
}

type OfLine = { line: LineDraft; view: Schemas['LineView'] | undefined };
type Figures = OfLine & Pick<Props, 'onChange'> & { cooked: ReactNode };

/** Bought, what it is with what is done to it, and what is there when it is cooked. */
export const LINE_GRID =
  'grid grid-cols-[5.5rem_minmax(0,1fr)_auto] items-baseline gap-x-3 sm:grid-cols-[5.5rem_minmax(0,1fr)_auto_5.5rem]';

function Reading({ line, view, part, onChange, cooked }: Figures & { part: Part }) {
  const name = lineName(line);
  const offered = offeredRefuse(line, view);
  return (
    <div className={`${LINE_GRID} hover:bg-bench`}>
      <Reads
        part={part}
        className="col-span-2 grid min-h-9 grid-cols-subgrid items-baseline py-1 text-left pointer-coarse:min-h-11"
      >
        <span className="figures text-right font-semibold whitespace-nowrap">
          {typedWeight(line.purchased_g)}
        </span>
        <span className="flex min-w-0 flex-wrap items-baseline justify-between gap-x-4">
          <span>
            {line.text ? (
              <>
                {view?.as_written === false ? <span className="text-sm text-muted">written </span> : null}
                <span className={view?.as_written === false ? 'text-muted' : ''}>
                  {view?.as_written ? line.text.replace(ITS_GRAMS, '') : line.text}
                </span>
                {/* Which food it was taken for is always told: "onion powder" may have been read as an onion. */}
                <span className="text-sm text-muted"> {name}</span>
              </>
            ) : (
              name
            )}
            {line.food?.weak ? (
              <span className="ml-2 rounded border border-edge px-1 text-xs">weak figures</span>
            ) : null}
          </span>
          <span className="text-sm text-muted">{lineNotes(line, view).join(', ')}</span>
        </span>
      </Reads>
      {offered ? (
        <span className="text-right text-sm max-sm:order-last max-sm:col-span-3 max-sm:pb-1">
          <TakeOff share={offered.refuse_share} onTake={(refuse_share) => onChange({ refuse_share })} />
        </span>
      ) : null}
      <span className="figures py-1 text-right whitespace-nowrap sm:col-start-4">{cooked}</span>
    </div>
  );
}

function TakeOff({ share, onTake }: { share: number; onTake: (percent: string) => void }) {
  return (
    <span className="text-muted">
      {percent(share)} goes off.{' '}
      <button
        type="button"
        className="min-h-6 font-medium text-ink underline"
        onClick={() => onTake(String(Math.round(share * 1000) / 10))}
      >
        Take it off
      </button>
    </span>
  );
}

const typedWeight = (text: string) => {
  const { value } = readWeight(text);
  return typeof value === 'number' ? exactWeight(value) : `${text} ${massUnit()}`;
};

/** What the column before it says too. */
const ITS_GRAMS = /^\d[\d.,]*\s?k?g\s+(?:of\s+)?/i;

const offeredRefuse = (line: LineDraft, view: OfLine['view']) =>
  view?.offered_refuse.find((one) => Math.round(one.refuse_share * 100) !== Number(line.refuse_share));

/** Its state and what is done to it, in words. */
function lineNotes(line: LineDraft, view: OfLine['view']): string[] {
  const state = line.food
    ? `${line.food.state}${line.food.method ? ` (${line.food.method})` : ''}`
    : 'made of the component';
  return [
    state,
    line.weighed_state && line.weighed_state !== line.food?.state ? `weighed ${line.weighed_state}` : '',
    Number(line.refuse_share) ? `${line.refuse_share} % off${line.refuse_after ? ' after cooking' : ''}` : '',
    line.retained_share !== '100' ? `${line.retained_share} % stays` : '',
    line.yield_factor ? `own yield × ${line.yield_factor}` : '',
    !line.counted ? 'not counted' : view?.free ? 'free by your rule' : '',
    line.scales ? '' : 'keeps its amount',
  ].filter(Boolean);
}

export const withReason = (dismissed: Record<string, string>, code: string, reason: string | null) => {
  const { [code]: _, ...others } = dismissed;
  return reason === null ? others : { ...others, [code]: reason };
};

/** A field with a word over it that the line's name makes whole for those who do not see the line. */
function Under({ word, children }: { word: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <span aria-hidden className="mb-1 block text-sm font-medium text-muted">
        {word}
      </span>
      {children}
    </div>
  );
}

type FieldsProps = Figures &
  Pick<Props, 'at' | 'next' | 'onRemove'> & { control: Control<RecipeDraft>; part: Part };

function LineFields({ control, at, line, view, part, next, cooked, onChange, onRemove }: FieldsProps) {
  const name = lineName(line);
  const { open, close } = useOpener();
  const [isMore, setMore] = useState(false);
  const offered = offeredRefuse(line, view);
  /** Enter goes on to the next ingredient's weight, and from the last to where the next line is written. */
  const toNextLine = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    const card = event.currentTarget.closest('[data-component]');
    if (next) return open(next);
    close();
    const entry = card?.querySelector<HTMLElement>('[data-entry]');
    if (entry instanceof HTMLButtonElement) entry.click();
    else entry?.focus();
  };
  return (
    <>
      <p className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span>
          <span className="font-semibold">{name}</span>{' '}
          <span className="text-sm text-muted">
            {line.food
              ? `${line.food.state}${line.food.method ? `, ${line.food.method}` : ''}`
              : 'another component'}
            {line.text ? `, written as “${line.text}”` : ''}
          </span>
        </span>
        {cooked ? <span className="figures">{cooked} cooked</span> : null}
      </p>
      <div className="mt-1 grid grid-cols-2 gap-2 md:grid-cols-4">
        <Under word="Bought">
          <GramsField
            control={control}
            name={`${at}.purchased_g`}
            alias="food_id"
            label={`${name}, bought`}
            hideLabel
            autoFocus={part.isChosen}
            onFocus={(event) => event.currentTarget.select()}
            onKeyDown={toNextLine}
          />
        </Under>
        <Under word="Trimmed off">
          <TextField
            control={control}
            name={`${at}.refuse_share`}
            label={`${name}, trimmed off`}
            hideLabel
            unit="%"
            inputMode="decimal"
          />
        </Under>
        <Under word="Stays in the dish">
          <TextField
            control={control}
            name={`${at}.retained_share`}
            label={`${name}, stays in the food`}
            hideLabel
            unit="%"
            inputMode="decimal"
          />
        </Under>
        <Under word="Yield">
          <TextField
            control={control}
            name={`${at}.yield_factor`}
            label={`${name}, yield`}
            hideLabel
            unit="×"
            inputMode="decimal"
            placeholder={view ? `~${view.expected.expected.toFixed(2)}` : ''}
          />
        </Under>
      </div>
      {offered ? (
        <p className="mt-1 text-sm">
          <TakeOff share={offered.refuse_share} onTake={(refuse_share) => onChange({ refuse_share })} />{' '}
          <span className="text-muted">{offered.note}</span>
        </p>
      ) : null}
      {isMore ? <LineDetails control={control} at={at} line={line} view={view} onChange={onChange} /> : null}
      <p className="mt-2 flex flex-wrap gap-2">
        <Button aria-expanded={isMore} aria-label={`${name}: more`} onClick={() => setMore(!isMore)}>
          {isMore ? 'Less' : 'More'}
        </Button>
        <Button aria-label={`Remove ${name}`} onClick={onRemove}>
          Remove
        </Button>
        <Button className="ml-auto" onClick={part.close}>
          Done
        </Button>
      </p>
    </>
  );
}

function LineDetails({
  control,
  at,
  line,
  view,
  onChange,
}: OfLine & Pick<Props, 'at' | 'onChange'> & { control: Control<RecipeDraft> }) {
  return (
    <div className="mt-3 grid gap-4 md:grid-cols-2">
      <div className="space-y-2">
        <ChoiceField
          control={control}
          name={`${at}.weighed_state`}
          label="These grams were weighed"
          options={STATES}
        />
        <TickField
          control={control}
          name={`${at}.refuse_after`}
          label="What is not eaten comes off after cooking (bone, skin)"
        />
        <TickField control={control} name={`${at}.counted`} label="Count its macros" />
        <TickField control={control} name={`${at}.scales`} label="Follows when the recipe is scaled" />
        {line.food ? (
          <FoodPicker
            label="Another food for this line"
            onPick={(food) => void exchanged(line, food).then(onChange)}
          />
        ) : null}
      </div>
      <div className="space-y-2 text-sm">
        {view ? (
          <p>
            It brings <MacroLine amounts={view.amounts} />
          </p>
        ) : null}
        {view?.books ? <Books books={view.books} /> : null}
      </div>
    </div>
  );
}

/**
 * Another food for a line: what the line says is read anew for it, since a cup and a piece weigh what they weigh of
 * that food. Grams that were changed by hand since keep their proportion.
 */
async function exchanged(line: LineDraft, food: Schemas['FoodBrief']): Promise<Partial<LineDraft>> {
  const other = { food, weighed_state: '' };
  const now = readWeight(line.purchased_g).value;
  if (!line.text || !line.food || typeof now !== 'number') return other;
  const read = (id: string) =>
    ask(api.POST('/api/v1/recipes/read', { body: { text: line.text, food_id: id } }));
  const [before, after] = await Promise.all([read(line.food.id), read(food.id)]);
  const [was, is] = [before.lines[0]?.grams, after.lines[0]?.grams];
  return was && is ? { ...other, purchased_g: asWeight(Math.round((now * is * 10) / was) / 10) } : other;
}

/** Raw grams by raw figures over the cooked weight, and the table's own cooked entry: how far apart they are. */
function Books({ books }: { books: Schemas['BooksView'] }) {
  return (
    <table className="w-full">
      <caption className="text-left font-medium">100 g cooked, by two books</caption>
      <tbody>
        <tr className="border-t border-steel">
          <th scope="row" className="py-1 pr-2 text-left font-normal">
            raw book, this yield
          </th>
          <td className="py-1">
            <MacroLine amounts={books.by_raw} />
          </td>
        </tr>
        <tr className="border-t border-steel">
          <th scope="row" className="py-1 pr-2 text-left font-normal">
            cooked book: {books.cooked_food}
          </th>
          <td className="py-1">
            <MacroLine amounts={books.by_cooked} />
          </td>
        </tr>
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={2} className="text-muted">
            {percent(books.apart)} apart in energy. The raw book is right whatever the yield.
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
