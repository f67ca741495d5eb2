import type { KeyboardEvent } from 'react';
import type { MacroKey } from '~/food/nutrients';
import { grams, plural, slotName, weight, wholeNumber } from '~/lib/format';
import type { Plan } from '~/views/batch/frame/use-plan';
import { TARGETS } from '~/views/batch/plan/columns';
import { isOff, type Line } from '~/views/batch/plan/lines';
import { Was } from '~/views/batch/plan/plan-cells';

/** Names and macros stay in sight when many components are scrolled, where there is room for all three. */
export const FROZEN_LEFT = 'lg:sticky lg:left-0 lg:z-[1] bg-inherit';
const RIGHT = ['lg:right-[198px]', 'lg:right-[132px]', 'lg:right-[66px]', 'lg:right-0'];
export const frozenRight = (nutrient: MacroKey) =>
  `lg:sticky lg:z-[1] bg-inherit ${RIGHT[TARGETS.indexOf(nutrient)]}`;

export function lineClass(line: Line, chosenRow: string | null) {
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

/** What all containers take of each component, and what the pot then has over. */
export function Totals({ plan, moved, stuck }: { plan: Plan; moved: Map<string, number>; stuck: boolean }) {
  const containers = plan.rows.reduce((sum, row) => sum + row.count, 0);
  const everything = plan.rows.reduce((sum, row) => sum + row.count * row.total_g, 0);
  return (
    <tfoot className={stuck ? 'sticky bottom-0 z-10' : ''}>
      <tr className="border-t-2 border-ink bg-bench align-top">
        <th scope="row" className={`${FROZEN_LEFT} border-r border-steel px-2.5 py-1.5 text-left font-bold`}>
          In containers
        </th>
        <td className="figures border-r border-steel px-1.5 py-1.5 text-right font-bold">
          ×{wholeNumber(containers)}
        </td>
        {plan.components.map((component) => (
          <td key={component.id} className="figures border-r border-steel px-1.5 py-1.5">
            <span className="block font-bold">{weight(component.needed_g)}</span>
            <span className="block text-xs whitespace-nowrap text-muted">
              {component.spare_g < -0.5
                ? `${weight(-component.spare_g)} short`
                : `${weight(Math.max(component.spare_g, 0))} over`}
            </span>
            <Was value={moved.get(`${component.id}/needed`)} />
          </td>
        ))}
        <td className="figures border-r border-steel px-1 py-2 text-right text-xs font-bold">
          {grams(everything)}
        </td>
        <td colSpan={TARGETS.length} className="lg:sticky lg:right-0 bg-inherit" />
      </tr>
    </tfoot>
  );
}
