import type { KeyboardEvent } from 'react';
import type { MacroKey } from '~/food/nutrients';
import { grams, plural, slotName, weight, wholeNumber } from '~/lib/format';
import type { Plan } from '~/views/batch/frame/use-plan';
import { TARGETS } from '~/views/batch/plan/columns';
import { ComponentHead, GroupHead } from '~/views/batch/plan/component-head';
import {
  columnCount,
  type DishPart,
  dishSummary,
  groupWords,
  type Head,
  headsOf,
  widest,
} from '~/views/batch/plan/dishes';
import { isOff, type Line } from '~/views/batch/plan/lines';
import { Was } from '~/views/batch/plan/plan-cells';

/** Names and macros stay in sight when many components are scrolled, where there is room for all three. */
export const FROZEN_LEFT = 'lg:sticky lg:left-0 lg:z-[1] bg-inherit';
const RIGHT = ['lg:right-[198px]', 'lg:right-[132px]', 'lg:right-[66px]', 'lg:right-0'];
export const frozenRight = (nutrient: MacroKey) =>
  `lg:sticky lg:z-[1] bg-inherit ${RIGHT[TARGETS.indexOf(nutrient)]}`;

export function lineClass(line: Line, chosenRow: string | null) {
  if (line.kind === 'dish') return 'border-t-2 border-ink bg-bench';
  if (line.kind === 'totals') return 'border-t border-ink bg-bench align-top';
  if (line.kind === 'folded') return 'border-t border-steel';
  const dashed = line.first ? '' : 'border-dashed';
  const chosen = line.row.id === chosenRow ? 'bg-chosen' : 'bg-sheet';
  return `border-t ${dashed} border-steel ${chosen} ${line.row.count === 0 ? 'opacity-60' : ''}`;
}

/** The place of lines that are not drawn. */
export function Gap({ height }: { height: number }) {
  return (
    <tr aria-hidden>
      <td style={{ height }} />
    </tr>
  );
}

export function RowHead({
  line,
  onOpen,
  onFold,
}: {
  line: Extract<Line, { kind: 'row' }>;
  onOpen: () => void;
  onFold: () => void;
}) {
  const { row } = line;
  return (
    <th
      scope="row"
      className={`${FROZEN_LEFT} relative border-r border-steel p-0 text-left align-top font-normal`}
    >
      <button
        type="button"
        onClick={onOpen}
        aria-label={`${row.client}, ${slotName(row.slot, row.day_type)}: what is in this container`}
        className="min-h-12 w-full px-2.5 py-1.5 text-left hover:underline"
      >
        {line.first ? <span className="block pr-5 leading-tight font-semibold">{row.client}</span> : null}
        <span className="block text-sm text-muted">{slotName(row.slot, row.day_type)}</span>
        {row.notes.length ? (
          <span className="block text-xs leading-tight font-medium text-ochre-text">{row.notes[0]}</span>
        ) : null}
      </button>
      {line.first && line.siblings > 1 ? (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Fold the ${line.siblings} lines of ${row.client}`}
          onClick={onFold}
          className="absolute top-0 right-0 flex size-11 justify-end pt-1 pr-2.5 text-muted hover:text-ink"
        >
          −
        </button>
      ) : null}
    </th>
  );
}

export function FoldedLine({
  line,
  at,
  span,
  onUnfold,
  onMove,
  onFocus,
}: {
  line: Extract<Line, { kind: 'folded' }>;
  at: number;
  span: number;
  onUnfold: () => void;
  onMove: (event: KeyboardEvent) => void;
  onFocus: () => void;
}) {
  const containers = line.rows.reduce((sum, row) => sum + row.count, 0);
  const off = line.rows.filter(isOff).length;
  return (
    <>
      <th scope="row" className="border-r border-steel p-0 text-left font-normal">
        <button
          type="button"
          data-place={`${at}:fold`}
          aria-expanded={false}
          onClick={onUnfold}
          onFocus={onFocus}
          onKeyDown={(event) => {
            if (event.key.toLowerCase() === 'f') onUnfold();
            else onMove(event);
          }}
          className="flex min-h-11 w-full items-center justify-between px-2.5 text-left hover:underline"
        >
          <span className="font-semibold">{line.client}</span>
          <span aria-hidden className="text-muted">
            +
          </span>
        </button>
      </th>
      <td colSpan={span} className="px-3 text-sm text-muted">
        {plural(line.rows.length, 'line')}, {plural(containers, 'container')}
        {off ? <strong className="ml-3 text-alert">{off} off the target</strong> : ', all inside'}
      </td>
    </>
  );
}

/** What the containers of a dish take of a part together, and what its pot then has over. */
function Taken({ part, was }: { part: DishPart; was: number | undefined }) {
  return (
    <>
      <span className="block font-bold">{weight(part.taken_g)}</span>
      {part.place === 'at eating' ? null : (
        <span className="block text-xs whitespace-nowrap text-muted">
          {part.spare_g < -0.5
            ? `${weight(-part.spare_g)} short`
            : `${weight(Math.max(part.spare_g, 0))} over`}
        </span>
      )}
      <Was value={was} />
    </>
  );
}

type Sums = { plan: Plan; rows: Plan['rows']; heads: Head[]; moved: Map<string, number> };

/** How many containers of a dish there are, and what they take of each of its parts. */
export function SumCells({ plan, rows, heads, moved }: Sums) {
  const containers = rows.reduce((sum, row) => sum + row.count, 0);
  const everything = rows.reduce((sum, row) => sum + row.count * row.total_g, 0);
  return (
    <>
      <th scope="row" className={`${FROZEN_LEFT} border-r border-steel px-2.5 py-1.5 text-left font-bold`}>
        In containers
      </th>
      <td className="figures border-r border-steel px-1.5 py-1.5 text-right font-bold">
        ×{wholeNumber(containers)}
      </td>
      {heads.map((head) => (
        <td
          key={head.kind === 'part' ? head.part.id : head.name}
          colSpan={head.span}
          className="figures border-r border-steel px-1.5 py-1.5"
        >
          {head.kind === 'part' ? (
            <Taken part={head.part} was={moved.get(`${head.part.dish_id}/${head.part.id}/taken`)} />
          ) : (
            head.members
              .filter((part) => part.taken_g > 0)
              .map((part) => (
                <span key={part.id} className="block text-xs leading-tight">
                  {part.name} <strong>{weight(part.taken_g)}</strong>
                </span>
              ))
          )}
        </td>
      ))}
      <Filler columns={widest(plan) - columnCount(heads)} />
      <td className="figures border-r border-steel px-1 py-2 text-right text-xs font-bold">
        {grams(everything)}
      </td>
      <td colSpan={TARGETS.length} className="lg:sticky lg:right-0 bg-inherit" />
    </>
  );
}

/** The place of columns that a dish does not have. */
const Filler = ({ columns }: { columns: number }) =>
  columns > 0 ? <td colSpan={columns} className="border-r border-steel" /> : null;

/** The heads of a dish's columns, each of which opens its component. */
export function Heads({
  plan,
  heads,
  moved,
  chosen,
  onOpen,
}: {
  plan: Plan;
  heads: Head[];
  moved: Map<string, number>;
  chosen: string | null;
  onOpen: (id: string) => void;
}) {
  return heads.map((head) =>
    head.kind === 'part' ? (
      <ComponentHead
        key={head.part.id}
        plan={plan}
        part={head.part}
        was={moved.get(`${head.part.id}/cooked`)}
        chosen={head.part.id === chosen}
        onOpen={() => onOpen(head.part.id)}
      />
    ) : (
      <GroupHead key={head.name} plan={plan} head={head} chosen={chosen} onOpen={onOpen} />
    ),
  );
}

/** The head of a dish among others: what it is, and, unfolded, its parts. */
export function DishHead({
  plan,
  line,
  moved,
  chosenComponent,
  onComponent,
  onDish,
  onFold,
}: {
  plan: Plan;
  line: Extract<Line, { kind: 'dish' }>;
  moved: Map<string, number>;
  chosenComponent: string | null;
  onComponent: (id: string) => void;
  onDish: (id: string) => void;
  onFold: () => void;
}) {
  const { dish, rows, folded } = line;
  const heads = headsOf(plan, dish);
  const off = rows.filter(isOff).length;
  const told = [dishSummary(plan, dish), groupWords(dish)].filter(Boolean).join('; ');
  const head = (
    <span className="flex flex-col gap-1 px-2.5 py-2">
      <button type="button" onClick={() => onDish(dish.id)} className="text-left hover:underline">
        <span className="block font-heading text-lg leading-tight font-bold">{dish.name}</span>
        <span className="block text-sm leading-tight text-muted">{told}</span>
      </button>
      {off ? <strong className="text-sm text-alert">{off} off the target</strong> : null}
      <button
        type="button"
        aria-expanded={!folded}
        aria-label={folded ? `Show ${dish.name}` : `Fold ${dish.name}`}
        onClick={onFold}
        className="min-h-9 w-fit text-sm text-muted underline hover:text-ink"
      >
        {folded ? 'Show' : 'Fold'}
      </button>
    </span>
  );
  if (folded) {
    return (
      <th scope="rowgroup" colSpan={widest(plan) + 3 + TARGETS.length} className="text-left font-normal">
        {head}
      </th>
    );
  }
  return (
    <>
      <th
        scope="rowgroup"
        colSpan={2}
        className={`${FROZEN_LEFT} border-r border-steel text-left align-bottom font-normal`}
      >
        {head}
      </th>
      <Heads plan={plan} heads={heads} moved={moved} chosen={chosenComponent} onOpen={onComponent} />
      <Filler columns={widest(plan) - columnCount(heads)} />
      <td className="border-r border-steel" />
      <td colSpan={TARGETS.length} className="lg:sticky lg:right-0 bg-inherit" />
    </>
  );
}

/** What all containers of the only dish take of each part, and what the pot then has over. */
export function Totals({ plan, moved, stuck }: { plan: Plan; moved: Map<string, number>; stuck: boolean }) {
  const [dish] = plan.dishes;
  if (!dish || plan.dishes.length > 1) return null;
  return (
    <tfoot className={stuck ? 'sticky bottom-0 z-10' : ''}>
      <tr className="border-t-2 border-ink bg-bench align-top">
        <SumCells plan={plan} rows={plan.rows} heads={headsOf(plan, dish)} moved={moved} />
      </tr>
    </tfoot>
  );
}
