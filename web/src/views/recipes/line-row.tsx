import { type KeyboardEvent, useState } from 'react';
import { useWatch } from 'react-hook-form';
import { api, ask, type Schemas } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { MacroLine } from '~/food/macros';
import { exactWeight, percent } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { ChoiceField, GramsField, TextField, TickField } from '~/parts/form-fields';
import { Why } from '~/parts/why';
import { LineChain } from '~/views/recipes/chain';
import { type LineDraft, lineName, type RecipeDraft } from '~/views/recipes/draft';
import { Findings } from '~/views/recipes/findings';

export type Mend = Schemas['MendView'];

type Props = {
  form: Form<RecipeDraft>;
  at: `components.${number}.lines.${number}`;
  view: Schemas['LineView'] | undefined;
  findings: Schemas['FindingView'][];
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

/** One ingredient: what it is, how much, what comes out; more behind a click, mistakes beside it. */
export function LineRow({ form, at, view, findings, onChange, onMend, onRemove }: Props) {
  const { control } = form;
  const line = useWatch({ control, name: at });
  const [open, setOpen] = useState(false);
  const name = lineName(line);
  const offered = view?.offered_refuse.find(
    (one) => Math.round(one.refuse_share * 100) !== Number(line.refuse_share),
  );
  const marks = [
    line.weighed_state && line.weighed_state !== line.food?.state ? `weighed ${line.weighed_state}` : '',
    line.refuse_after && Number(line.refuse_share) ? 'comes off after cooking' : '',
    !line.counted ? 'not counted' : view?.free ? 'free by your rule' : '',
    line.scales ? '' : 'keeps its amount',
  ].filter(Boolean);
  return (
    <>
      <tr className="border-t border-steel align-top">
        <th scope="row" className="py-1.5 pr-3 text-left font-normal">
          <button
            type="button"
            aria-expanded={open}
            aria-label={`${name}: more`}
            onClick={() => setOpen(!open)}
            className="min-h-8 text-left"
          >
            <span aria-hidden className="mr-1 inline-block w-3 text-muted">
              {open ? '▾' : '▸'}
            </span>
            <span className="font-semibold">{name}</span>{' '}
            <span className="text-sm text-muted">
              {line.food
                ? `${line.food.state}${line.food.method ? `, ${line.food.method}` : ''}`
                : 'component'}
            </span>
          </button>
          {line.food?.weak ? (
            <span className="ml-2 rounded border border-edge px-1 text-xs">weak figures</span>
          ) : null}
          {marks.length ? <span className="block pl-4 text-xs text-muted">{marks.join('; ')}</span> : null}
          {offered ? (
            <span className="block pl-4 text-sm text-muted">
              {percent(offered.refuse_share)} goes off {offered.note ? `(${offered.note})` : 'as bought'}.{' '}
              <button
                type="button"
                className="min-h-6 font-medium text-ink underline"
                onClick={() =>
                  onChange({ refuse_share: String(Math.round(offered.refuse_share * 1000) / 10) })
                }
              >
                Take it off
              </button>
            </span>
          ) : null}
        </th>
        <td className="py-1 pr-2">
          <GramsField
            control={control}
            name={`${at}.purchased_g`}
            alias="food_id"
            label={`${name}, bought`}
            hideLabel
            onKeyDown={toNextLine}
          />
        </td>
        <td className="py-1 pr-2">
          <TextField
            control={control}
            name={`${at}.refuse_share`}
            label={`${name}, trimmed off`}
            hideLabel
            unit="%"
            className="!pr-9"
            inputMode="decimal"
          />
        </td>
        <td className="py-1 pr-2">
          <TextField
            control={control}
            name={`${at}.retained_share`}
            label={`${name}, stays in the food`}
            hideLabel
            unit="%"
            className="!pr-9"
            inputMode="decimal"
          />
        </td>
        <td className="py-1 pr-2">
          <TextField
            control={control}
            name={`${at}.yield_factor`}
            label={`${name}, yield`}
            hideLabel
            unit="×"
            className="!pr-8"
            inputMode="decimal"
            placeholder={view ? `~${view.expected.expected.toFixed(2)}` : ''}
          />
        </td>
        <td className="figures py-2.5 text-right whitespace-nowrap">
          {view ? (
            <Why label={`${name}, cooked`} figure={exactWeight(view.cooked_g)}>
              <LineChain line={view} />
            </Why>
          ) : null}
        </td>
        <td className="py-1 text-right">
          <Button look="quiet" className="!px-2.5" aria-label={`Remove ${name}`} onClick={onRemove}>
            ×
          </Button>
        </td>
      </tr>
      {findings.length ? (
        <tr>
          <td colSpan={7} className="pb-2 pl-4">
            <Findings
              findings={findings}
              onMend={onMend}
              onDismiss={(code, reason) => onChange({ dismissed: withReason(line.dismissed, code, reason) })}
            />
          </td>
        </tr>
      ) : null}
      {open ? (
        <tr>
          <td colSpan={7} className="pb-3 pl-4">
            <LineDetails control={control} at={at} line={line} view={view} onChange={onChange} />
          </td>
        </tr>
      ) : null}
    </>
  );
}

export const withReason = (dismissed: Record<string, string>, code: string, reason: string | null) => {
  const { [code]: _, ...others } = dismissed;
  return reason === null ? others : { ...others, [code]: reason };
};

/** Enter goes on to the next ingredient's weight, and from the last to where the next line is written. */
function toNextLine(event: KeyboardEvent<HTMLInputElement>) {
  if (event.key !== 'Enter') return;
  event.preventDefault();
  const card = event.currentTarget.closest('li');
  const fields = [...(card?.querySelectorAll<HTMLInputElement>('input[data-weight]') ?? [])];
  const next = fields[fields.indexOf(event.currentTarget) + 1];
  (next ?? card?.querySelector<HTMLElement>('textarea'))?.focus();
}

function LineDetails({
  control,
  at,
  line,
  view,
  onChange,
}: Pick<Props, 'at' | 'view' | 'onChange'> & { control: Props['form']['control']; line: LineDraft }) {
  return (
    <div className="grid gap-4 rounded-lg bg-bench p-3 md:grid-cols-2">
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
        {line.text ? <p className="text-muted">Written as “{line.text}”.</p> : null}
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
