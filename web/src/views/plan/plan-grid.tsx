import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import type { Problem } from '~/lib/api';
import { grams, plural, slotName, weight, wholeNumber } from '~/lib/format';
import { stepOf, unitOf } from '~/lib/schools';
import { massUnit } from '~/lib/units';
import { keepDraft, readDraft } from '~/lib/use-draft';
import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import { type MacroKey, MacroName } from '~/parts/macros';
import {
  type Column,
  columnName,
  columnsOf,
  editableText,
  nudge,
  type Row,
  readTyped,
  TARGETS,
  togglePin,
  typedChange,
} from '~/views/plan/columns';
import { ComponentHead } from '~/views/plan/component-head';
import { foldable, isOff, type Line, linesOf } from '~/views/plan/lines';
import { CellEditor, CellFace, CountFace, type Editing, GaugeFace, Was } from '~/views/plan/plan-cells';
import type { Change, Plan } from '~/views/plan/use-plan';

type Props = {
  plan: Plan;
  moved: Map<string, number>;
  chosenRow: string | null;
  chosenComponent: string | null;
  onChange: (make: (plan: Plan) => Change[]) => Promise<Problem | null>;
  /** The same where no field shows a refusal. */
  onAct: (make: (plan: Plan) => Change[]) => Promise<void>;
  /** What a change would do while a figure is dragged; null once it is let go. */
  onPreview: (changes: Change[] | null) => Promise<void>;
  onRow: (id: string) => void;
  onComponent: (id: string) => void;
};

/** Above so many lines only those in view are drawn, in a frame that scrolls. */
const MOST_DRAWN = 30;
/** From so many lines on the plan can be narrowed and folded as a whole. */
const MANY = 12;
const LINE_PX = 62;

type TypedBefore = { row: string; column: string; text: string };

/** The cell that was being typed into when the page was left, with its text. */
function typedBefore(plan: Plan, columns: Column[], draft: string): Editing | null {
  const kept = readDraft<TypedBefore>(draft);
  if (!kept || plan.batch.packed_at !== null) return null;
  const line = linesOf(plan, new Set(), false).findIndex(
    (one) => one.kind === 'row' && one.row.id === kept.row,
  );
  const column = columns.findIndex((one) => columnKey(one) === kept.column);
  return line < 0 || column < 0 ? null : { line, column, text: kept.text, fault: null, sending: false };
}

/** Every container of the batch: grams by component, and how each stands to its target. */
export function PlanGrid(props: Props) {
  const { plan, moved, chosenComponent, onChange, onAct, onComponent } = props;
  const columns = columnsOf(plan);
  const [folded, setFolded] = useState<Set<string>>(new Set());
  const [onlyOff, setOnlyOff] = useState(false);
  const [place, setPlace] = useState({ line: 0, column: 1 });
  const draft = `plan/${plan.batch.id}/cell`;
  const [editing, setEditing] = useState<Editing | null>(() => typedBefore(plan, columns, draft));
  const [ahead, step] = useAhead();
  const frame = useRef<HTMLDivElement>(null);
  const wantsFocus = useRef(false);
  const closed = plan.batch.packed_at !== null;
  const lines = linesOf(plan, folded, onlyOff);
  useEffect(() => {
    const [line, column] = editing ? [lines[editing.line], columns[editing.column]] : [];
    const typed =
      editing && line?.kind === 'row' && column && editing.text !== editableText(line.row, column)
        ? { row: line.row.id, column: columnKey(column), text: editing.text }
        : null;
    keepDraft(draft, typed satisfies TypedBefore | null);
  });
  const virtual = lines.length > MOST_DRAWN;
  const virtualizer = useVirtualizer({
    count: lines.length,
    enabled: virtual,
    getScrollElement: () => frame.current,
    estimateSize: () => LINE_PX,
    getItemKey: (at) => keyOf(lines[at]),
    overscan: 10,
    scrollPaddingStart: 190,
    scrollPaddingEnd: 60,
  });
  const drawn = virtual ? virtualizer.getVirtualItems() : [];
  const above = drawn[0]?.start ?? 0;
  const below = virtual ? virtualizer.getTotalSize() - (drawn.at(-1)?.end ?? 0) : 0;
  const shown = virtual ? drawn.map((item) => item.index) : lines.map((_, at) => at);

  const find = (line: number, column: number) =>
    frame.current?.querySelector<HTMLElement>(`[data-place="${line}:${column}"]`) ??
    frame.current?.querySelector<HTMLElement>(`[data-place="${line}:fold"]`);
  const focus = (line: number, column: number) => {
    const next = {
      line: Math.max(0, Math.min(lines.length - 1, line)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setPlace(next);
    if (virtual) virtualizer.scrollToIndex(next.line);
    const cell = find(next.line, next.column);
    if (cell) cell.focus();
    else wantsFocus.current = true;
  };
  // A cell that is scrolled to, or that was being typed into, is there only after the next drawing.
  useEffect(() => {
    if (!wantsFocus.current) return;
    const cell = find(place.line, place.column);
    if (!cell) return;
    wantsFocus.current = false;
    cell.focus();
  });

  const open = (line: number, column: number, text?: string) => {
    const [at, atColumn] = [lines[line], columns[column]];
    if (closed || at?.kind !== 'row' || !atColumn) return;
    if (atColumn.kind === 'cell' && leftOut(at.row, atColumn.componentId)) return;
    setPlace({ line, column });
    setEditing({ line, column, text: text ?? editableText(at.row, atColumn), fault: null, sending: false });
  };

  const accept = async (moveOn: boolean) => {
    if (!editing || editing.sending) return;
    const [line, column] = [lines[editing.line], columns[editing.column]];
    if (line?.kind !== 'row' || !column) return;
    const { row } = line;
    const { value, fault } = readTyped(column, editing.text);
    if (fault) {
      setEditing({ ...editing, fault });
      return;
    }
    if (editing.text !== editableText(row, column) || (column.kind === 'cell' && moveOn)) {
      setEditing({ ...editing, sending: true });
      const problem = await onChange((now) => {
        const current = now.rows.find((one) => one.id === row.id);
        return current ? [typedChange(current, column, value)] : [];
      });
      // A refused value stays in its cell with the reason; one that waits is kept by the page.
      if (problem?.type === 'invalid') {
        setEditing({ ...editing, fault: problem.errors?.[0]?.message ?? problem.detail, sending: false });
        return;
      }
    }
    setEditing(null);
    if (moveOn) focus(editing.line, editing.column);
  };

  const fold = (clientId: string, at: number) => {
    const next = new Set(folded);
    if (!next.delete(clientId)) next.add(clientId);
    setFolded(next);
    const head = linesOf(plan, next, onlyOff).findIndex((line) => clientOf(line) === clientId);
    setPlace({ line: head < 0 ? at : head, column: place.column });
    wantsFocus.current = true;
  };

  const move = (event: KeyboardEvent, line: number, column: number): boolean => {
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = moves[event.key];
    if (step) focus(line + step[0], column + step[1]);
    else if (event.key === 'Home') focus(line, 0);
    else if (event.key === 'End') focus(line, columns.length - 1);
    else return false;
    return true;
  };

  const onKey = (event: KeyboardEvent, line: number, column: number) => {
    const [at, atColumn] = [lines[line], columns[column]];
    if (at?.kind !== 'row' || !atColumn || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    if (move(event, line, column)) {
      // moved
    } else if (event.key === 'Enter' || event.key === 'F2') open(line, column);
    else if (/^[-−0-9.,]$/.test(event.key)) open(line, column, event.key);
    else if (event.key === 'Delete' || event.key === 'Backspace') open(line, column, '');
    else if (key === 'f' && at.siblings > 1) fold(at.row.client_id, line);
    else if (closed) return;
    else if (event.key === '[' || event.key === ']') {
      const direction = event.key === '[' ? -1 : 1;
      const done = onAct((now) => nudge(now, at.row.id, atColumn, direction));
      step(plan, at.row, atColumn, direction, done);
    } else if (key === 'p' && atColumn.kind === 'cell') {
      void onAct((now) => togglePin(now, at.row.id, atColumn.componentId));
    } else return;
    event.preventDefault();
  };

  const shared = { ahead, editing, place, setEditing, accept, open, onKey, setPlace, wantsFocus };
  const groups = foldable(plan);
  return (
    <div className="overflow-hidden rounded-xl border border-steel bg-sheet">
      {plan.rows.length > MANY ? (
        <div className="flex flex-wrap items-center gap-x-5 border-b border-steel px-3 py-1">
          <Tick
            label={`Only what is off its target (${plan.rows.filter(isOff).length})`}
            checked={onlyOff}
            onChange={setOnlyOff}
          />
          {groups.size ? (
            <Button look="quiet" onClick={() => setFolded(folded.size ? new Set() : groups)}>
              {folded.size ? 'Unfold all clients' : 'Fold all clients'}
            </Button>
          ) : null}
        </div>
      ) : null}
      <div
        ref={frame}
        className={virtual ? 'relative max-h-[calc(100vh-19rem)] overflow-auto' : 'relative overflow-x-auto'}
      >
        <table className="w-full table-fixed border-collapse" aria-rowcount={lines.length + 2}>
          <caption className="sr-only">
            Grams of each component for one container, and how it stands to its target. Arrows move, digits
            type.
          </caption>
          <colgroup>
            <col className="w-[146px]" />
            <col className="w-[72px]" />
            {plan.components.map((component) => (
              <col key={component.id} className="w-[104px]" />
            ))}
            <col className="w-[62px]" />
            {TARGETS.map((key) => (
              <col key={key} className="w-[66px]" />
            ))}
          </colgroup>
          <thead className={virtual ? 'sticky top-0 z-10' : ''}>
            <tr className="bg-bench align-bottom">
              <th
                scope="col"
                className={`${FROZEN_LEFT} border-r border-steel p-2.5 text-left text-sm font-medium text-muted`}
              >
                Client
              </th>
              <th
                scope="col"
                className="border-r border-steel p-1 pb-2.5 text-right text-xs font-medium text-muted"
              >
                Containers
              </th>
              {plan.components.map((component) => (
                <ComponentHead
                  key={component.id}
                  component={component}
                  was={moved.get(`${component.id}/cooked`)}
                  chosen={component.id === chosenComponent}
                  onOpen={() => onComponent(component.id)}
                />
              ))}
              <th
                scope="col"
                className="border-r border-steel p-1.5 pb-2.5 text-right text-sm font-medium text-muted"
              >
                Total {massUnit()}
              </th>
              {TARGETS.map((key) => (
                <th
                  key={key}
                  scope="col"
                  className={`${frozenRight(key)} p-1 pb-2.5 text-center text-sm font-semibold`}
                >
                  <MacroName of={key} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {above > 0 ? <Gap height={above} /> : null}
            {shown.map((at) => {
              const line = lines[at];
              if (!line) return null;
              return (
                <tr
                  key={keyOf(line)}
                  ref={virtual ? virtualizer.measureElement : null}
                  data-index={at}
                  aria-rowindex={at + 2}
                  className={lineClass(line, props.chosenRow)}
                >
                  {line.kind === 'folded' ? (
                    <FoldedLine
                      line={line}
                      at={at}
                      span={columns.length + 1}
                      onUnfold={() => fold(line.clientId, at)}
                      onMove={(event) => {
                        if (move(event, at, place.column)) event.preventDefault();
                      }}
                      onFocus={() => setPlace({ line: at, column: place.column })}
                    />
                  ) : (
                    <>
                      <RowHead
                        line={line}
                        onOpen={() => props.onRow(line.row.id)}
                        onFold={() => fold(line.row.client_id, at)}
                      />
                      {columns.map((column, columnNumber) => (
                        <EditableCell
                          key={columnKey(column)}
                          {...shared}
                          plan={plan}
                          row={line.row}
                          lineNumber={at}
                          column={column}
                          columnNumber={columnNumber}
                          moved={moved}
                          onAct={onAct}
                          onPreview={props.onPreview}
                        />
                      ))}
                    </>
                  )}
                </tr>
              );
            })}
            {below > 0 ? <Gap height={below} /> : null}
          </tbody>
          <Totals plan={plan} moved={moved} stuck={virtual} />
        </table>
      </div>
    </div>
  );
}

/** Grams that were nudged and that the server has not answered yet, by row and component: keys are never waited for. */
type Ahead = Map<string, { grams: number; waiting: number }>;

const aheadKey = (rowId: string, componentId: string) => `${rowId}/${componentId}`;

function useAhead() {
  const [ahead, setAhead] = useState<Ahead>(new Map());
  const step = (plan: Plan, row: Row, column: Column, direction: 1 | -1, done: Promise<unknown>) => {
    if (column.kind !== 'cell') return;
    const key = aheadKey(row.id, column.componentId);
    const cell = row.cells.find((one) => one.component_id === column.componentId);
    if (!cell || cell.left_out.length > 0) return;
    const size = stepOf(
      plan.components.find((one) => one.id === column.componentId),
      plan.batch.step_g,
    );
    setAhead((all) => {
      const before = all.get(key);
      const grams = (Math.round((before?.grams ?? cell.grams) / size) + direction) * size;
      const waiting = (before?.waiting ?? 0) + 1;
      return new Map(all).set(key, { grams: Math.max(grams, 0), waiting });
    });
    void done.finally(() =>
      setAhead((all) => {
        const before = all.get(key);
        const rest = new Map(all);
        if (!before || before.waiting <= 1) rest.delete(key);
        else rest.set(key, { ...before, waiting: before.waiting - 1 });
        return rest;
      }),
    );
  };
  return [ahead, step] as const;
}

const leftOut = (row: Row, componentId: string) =>
  (row.cells.find((cell) => cell.component_id === componentId)?.left_out.length ?? 0) > 0;

const clientOf = (line: Line) => (line.kind === 'folded' ? line.clientId : line.row.client_id);

const keyOf = (line: Line | undefined) =>
  line === undefined ? '' : line.kind === 'folded' ? `folded ${line.clientId}` : line.row.id;

const columnKey = (column: Column) =>
  column.kind === 'cell' ? column.componentId : column.kind === 'target' ? column.nutrient : 'count';

/** Names and macros stay in sight when many components are scrolled, where there is room for all three. */
const FROZEN_LEFT = 'lg:sticky lg:left-0 lg:z-[1] bg-inherit';
const RIGHT = ['lg:right-[198px]', 'lg:right-[132px]', 'lg:right-[66px]', 'lg:right-0'];
const frozenRight = (nutrient: MacroKey) =>
  `lg:sticky lg:z-[1] bg-inherit ${RIGHT[TARGETS.indexOf(nutrient)]}`;

function lineClass(line: Line, chosenRow: string | null) {
  if (line.kind === 'folded') return 'border-t border-steel';
  const dashed = line.first ? '' : 'border-dashed';
  const chosen = line.row.id === chosenRow ? 'bg-chosen' : 'bg-sheet';
  return `border-t ${dashed} border-steel ${chosen} ${line.row.count === 0 ? 'opacity-60' : ''}`;
}

/** The place of lines that are not drawn. */
function Gap({ height }: { height: number }) {
  return (
    <tr aria-hidden>
      <td style={{ height }} />
    </tr>
  );
}

function RowHead({
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

function FoldedLine({
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
function Totals({ plan, moved, stuck }: { plan: Plan; moved: Map<string, number>; stuck: boolean }) {
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

type CellProps = {
  plan: Plan;
  row: Row;
  lineNumber: number;
  column: Column;
  columnNumber: number;
  moved: Map<string, number>;
  ahead: Ahead;
  editing: Editing | null;
  place: { line: number; column: number };
  wantsFocus: { current: boolean };
  setEditing: (editing: Editing | null) => void;
  setPlace: (place: { line: number; column: number }) => void;
  accept: (moveOn: boolean) => Promise<void>;
  open: (line: number, column: number, text?: string) => void;
  onKey: (event: KeyboardEvent, line: number, column: number) => void;
  onAct: Props['onAct'];
  onPreview: Props['onPreview'];
};

/** One figure that can be moved to, typed into, nudged and dragged. The total stands before the first target. */
function EditableCell(props: CellProps) {
  const { plan, row, lineNumber, column, columnNumber, editing, place, moved } = props;
  const isEdited = editing?.line === lineNumber && editing.column === columnNumber;
  const isHere = place.line === lineNumber && place.column === columnNumber;
  const cell =
    column.kind === 'cell' ? row.cells.find((one) => one.component_id === column.componentId) : undefined;
  const held = cell && (cell.limit === 'pinned' || cell.limit === 'left out');
  const edges = column.kind === 'target' ? frozenRight(column.nutrient) : 'border-r border-steel';
  return (
    <>
      {column.kind === 'target' && column.nutrient === 'protein_g' ? (
        <td className="figures border-r border-steel px-1.5 text-right align-top">
          <span className="block pt-1.5 text-muted">{grams(row.total_g)}</span>
          <Was value={moved.get(`${row.id}/total`)} narrow />
        </td>
      ) : null}
      <td className={`p-0 align-top ${edges} ${held ? 'hatched' : ''}`}>
        {isEdited && editing ? (
          <CellEditor
            name={`${row.client}, ${columnName(plan, column)}`}
            editing={editing}
            onText={(text) => props.setEditing({ ...editing, text, fault: null })}
            onAccept={props.accept}
            onLeave={() => {
              props.setEditing(null);
              props.wantsFocus.current = true;
            }}
          />
        ) : (
          <button
            type="button"
            data-place={`${lineNumber}:${columnNumber}`}
            tabIndex={isHere ? 0 : -1}
            onFocus={() => props.setPlace({ line: lineNumber, column: columnNumber })}
            onKeyDown={(event) => props.onKey(event, lineNumber, columnNumber)}
            onDoubleClick={() => props.open(lineNumber, columnNumber)}
            className="block min-h-12 w-full px-1.5 py-1 text-left focus:bg-chosen"
          >
            <Face {...props} cell={cell} />
          </button>
        )}
      </td>
    </>
  );
}

/** What stands in a cell. Grams follow the hand while they are dragged; letting go makes them a pin. */
function Face({
  plan,
  row,
  column,
  cell,
  moved,
  ahead,
  onAct,
  onPreview,
}: CellProps & { cell: Row['cells'][number] | undefined }): ReactNode {
  const [dragged, setDragged] = useState<number | null>(null);
  const asked = useRef(Promise.resolve());
  if (column.kind === 'count') return <CountFace row={row} was={moved.get(`${row.id}/count`)} />;
  if (column.kind === 'target') return <GaugeFace row={row} nutrient={column.nutrient} moved={moved} />;
  if (!cell) return null;
  const component = plan.components.find((one) => one.id === column.componentId);
  const step = stepOf(component, plan.batch.step_g);
  const pin = (to: number): Change[] => [
    { kind: 'pin', row_id: row.id, component_id: column.componentId, grams: to },
  ];
  const drag = async (to: number | null) => {
    if (to !== null) {
      const next = Math.round(to / step) * step;
      if (next === dragged) return;
      setDragged(next);
      asked.current = onPreview(pin(next));
      return;
    }
    if (dragged === null) return;
    await asked.current;
    await onAct(() => pin(dragged));
    setDragged(null);
    void onPreview(null);
  };
  const unit = unitOf(component);
  const held = dragged ?? ahead.get(aheadKey(row.id, column.componentId))?.grams ?? null;
  const units = unit === null || held === null ? cell.units : held / unit;
  const movable = plan.batch.packed_at === null && cell.left_out.length === 0;
  return (
    <CellFace
      plan={plan}
      cell={held === null ? cell : { ...cell, grams: held, units, limit: 'pinned' }}
      was={moved.get(`${row.id}/${cell.component_id}`)}
      onDrag={movable ? (to) => void drag(to) : null}
    />
  );
}
