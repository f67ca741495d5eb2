/** @jsxImportSource preact */
import { useState } from 'preact/hooks';
import { readFigure } from '~/client-link/form';
import type { MyContainer } from '~/client-link/link';
import type { Tell } from '~/client-link/use-my-page';

/** Whether the day is over, today, or to come: of what is to come nobody says that it was eaten. */
export type When = 'over' | 'today' | 'later';

const BUTTON = 'min-h-12 rounded-lg border-2 border-ink px-4 font-bold';

/** A container of the day: where it is, how it is warmed up, what it holds, and what became of it. */
export function Container({ one, when, tell }: { one: MyContainer; when: When; tell: Tell }) {
  const [leaving, setLeaving] = useState(false);
  const say = (event: string, more: Record<string, unknown> = {}) => {
    setLeaving(false);
    tell({
      method: 'POST',
      path: '/eaten',
      body: {
        row_id: one.row_id,
        container: one.container,
        event,
        happened_at: new Date().toISOString(),
        ...more,
      },
    });
  };
  const where = one.is_frozen
    ? when === 'later'
      ? `In the freezer. ${one.thaw}`
      : 'Thawed overnight, in the fridge'
    : 'In the fridge';
  return (
    <article class="mt-3 rounded-xl border border-steel bg-sheet p-4" aria-label={`${one.meal}: ${one.dish}`}>
      <p class="text-muted">{one.meal}</p>
      <h2 class="text-2xl">
        {one.dish}
        {one.of > 1 ? `, ${one.container} of ${one.of}` : ''}
      </h2>
      <p>
        {where}
        {one.is_frozen ? '' : `. Eat by ${one.use_by}`}.
      </p>
      {one.figures.length ? <Macros figures={one.figures} kcal={one.kcal} /> : null}
      <p class="mt-3">{one.reheat}</p>
      {one.also.map((words) => (
        <p key={words} class="mt-1">
          {words}
        </p>
      ))}
      <details class="mt-1">
        <summary class="text-muted">What is in it</summary>
        <p>{one.parts.join(', ')}.</p>
        <p>
          {one.allergens.length ? (
            <>
              Contains <b>{one.allergens.join(', ').toUpperCase()}</b>.
            </>
          ) : (
            'No allergen is stated for what is in it.'
          )}
          {one.is_planned ? ' Planned, not weighed.' : ''}
        </p>
      </details>
      {one.told ? (
        <p class="mt-3 flex items-center justify-between gap-3" role="status">
          <b>{one.told === 'eaten' ? 'Eaten' : `Left ${one.left}`}</b>
          <button
            type="button"
            class={`${BUTTON} border-steel font-normal`}
            onClick={() => say('taken back')}
          >
            Take back
          </button>
        </p>
      ) : when === 'later' ? null : (
        <div class="mt-3 grid grid-cols-2 gap-2">
          <button type="button" class={`${BUTTON} bg-bar text-on-bar`} onClick={() => say('eaten')}>
            Eaten
          </button>
          <button type="button" class={BUTTON} aria-expanded={leaving} onClick={() => setLeaving(!leaving)}>
            Left some
          </button>
        </div>
      )}
      {leaving && !one.told ? (
        <HowMuch parts={one.weighed ?? []} onSaid={(more) => say('left', more)} />
      ) : null}
      {one.swaps.length && when !== 'over' ? <Swaps one={one} tell={tell} /> : null}
    </article>
  );
}

function HowMuch({
  parts,
  onSaid,
}: {
  parts: MyContainer['weighed'];
  onSaid: (more: Record<string, unknown>) => void;
}) {
  const [grams, setGrams] = useState('');
  const read = Number(grams.replace(',', '.'));
  const isWeight = grams.trim() !== '' && Number.isFinite(read) && read >= 0;
  return (
    <fieldset class="mt-3 rounded-lg bg-bench p-3">
      <legend class="sr-only">How much was left</legend>
      <div class="grid grid-cols-3 gap-2">
        {[
          [0.25, 'a quarter'],
          [0.5, 'half'],
          [1, 'all of it'],
        ].map(([share, words]) => (
          <button key={words} type="button" class={BUTTON} onClick={() => onSaid({ left_share: share })}>
            {words}
          </button>
        ))}
      </div>
      <div class="mt-2 flex items-center gap-2">
        <label class="flex flex-1 items-center gap-2">
          or weighed
          <input
            class="figures min-h-12 w-full min-w-0 rounded-lg border border-edge bg-sheet px-3"
            inputMode="decimal"
            aria-label="Grams that were left"
            value={grams}
            onInput={(event) => setGrams(event.currentTarget.value)}
          />
          g
        </label>
        <button type="button" class={BUTTON} disabled={!isWeight} onClick={() => onSaid({ left_g: read })}>
          Save
        </button>
      </div>
      {grams.trim() !== '' && !isWeight ? <p class="mt-1 text-alert">Grams are a number, as 80.</p> : null}
      {parts.length > 1 ? <ByPart parts={parts} onSaid={onSaid} /> : null}
    </fieldset>
  );
}

/** What was left of each part, weighed: it tells the coach what to leave out. */
function ByPart({
  parts,
  onSaid,
}: {
  parts: MyContainer['weighed'];
  onSaid: (more: Record<string, unknown>) => void;
}) {
  const [typed, setTyped] = useState<Record<string, string>>({});
  const read = parts.map((part) => [part.component_id, readFigure(typed[part.component_id] ?? '')] as const);
  const isWrong = read.some(([, grams]) => grams === undefined);
  const left = Object.fromEntries(read.filter(([, grams]) => grams));
  return (
    <details class="mt-2">
      <summary class="text-muted">Part by part</summary>
      {parts.map((part) => (
        <label key={part.component_id} class="mt-2 flex items-center gap-2">
          <span class="flex-1">
            {part.name}, of {Math.round(part.grams)} g
          </span>
          <input
            class="figures min-h-12 w-24 rounded-lg border border-edge bg-sheet px-3"
            inputMode="decimal"
            aria-label={`Grams of ${part.name} that were left`}
            value={typed[part.component_id] ?? ''}
            onInput={(event) => setTyped({ ...typed, [part.component_id]: event.currentTarget.value })}
          />
          g
        </label>
      ))}
      {isWrong ? <p class="mt-1 text-alert">Grams are a number, as 80.</p> : null}
      <button
        type="button"
        class={`${BUTTON} mt-2 w-full`}
        disabled={isWrong || !Object.keys(left).length}
        onClick={() => onSaid({ left_parts: left })}
      >
        Save these
      </button>
    </details>
  );
}

function Swaps({ one, tell }: { one: MyContainer; tell: Tell }) {
  return (
    <details class="mt-1">
      <summary class="text-muted">Eat another one instead</summary>
      <p class="text-muted">They change their days. Only those that keep are offered.</p>
      <ul>
        {one.swaps.map((other) => (
          <li key={`${other.row_id} ${other.container}`} class="mt-2">
            <button
              type="button"
              class={`${BUTTON} w-full text-left font-normal`}
              onClick={() =>
                tell({
                  method: 'POST',
                  path: '/swaps',
                  body: {
                    row_id: one.row_id,
                    container: one.container,
                    with_row_id: other.row_id,
                    with_container: other.container,
                  },
                })
              }
            >
              {other.name}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

const MACROS = [
  ['Protein', 'texture-solid'],
  ['Carbs', 'texture-hatched'],
  ['Fat', 'texture-dotted'],
] as const;

/** Protein, carbohydrate and fat in this order, told apart by texture. */
function Macros({ figures, kcal }: { figures: string[]; kcal: string }) {
  const grams = figures.map((figure) => Number(figure.split(' ')[1]));
  const most = Math.max(...grams, 1);
  return (
    <dl class="mt-3 grid grid-cols-[4.5rem_1fr_auto] items-center gap-x-3 gap-y-1">
      {MACROS.map(([name, texture], at) => (
        <div key={name} class="contents">
          <dt>{name}</dt>
          <dd aria-hidden="true">
            <span
              class={`block h-5 border border-ink ${texture}`}
              style={{ width: `${(100 * (grams[at] ?? 0)) / most}%` }}
            />
          </dd>
          <dd class="figures text-right font-bold">{grams[at]} g</dd>
        </div>
      ))}
      <dt class="col-span-2">Energy</dt>
      <dd class="figures text-right font-bold">{kcal}</dd>
    </dl>
  );
}
