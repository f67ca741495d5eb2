import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { Problem } from '~/lib/api';
import { exactGrams, exactNumber, exactWeight, grams, slotName, weight, wholeNumber } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import { macroShown, massUnit } from '~/lib/units';
import { GaugeLevel } from '~/parts/level';
import { MACROS } from '~/parts/macros';
import { YieldRibbon } from '~/parts/yield-ribbon';
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
import type { Change, Plan } from '~/views/plan/use-plan';

type Editing = { row: number; column: number; text: string; fault: string | null; sending: boolean };

type Props = {
  plan: Plan;
  moved: Map<string, number>;
  chosenRow: string | null;
  chosenComponent: string | null;
  onChange: (make: (plan: Plan) => Change[]) => Promise<Problem | null>;
  onRow: (id: string) => void;
  onComponent: (id: string) => void;
};

/** Every container of the batch: grams by component, and how each stands to its target. */
export function PlanGrid({ plan, moved, chosenRow, chosenComponent, onChange, onRow, onComponent }: Props) {
  const columns = columnsOf(plan);
  const [place, setPlace] = useState({ row: 0, column: 1 });
  const [editing, setEditing] = useState<Editing | null>(null);
  const table = useRef<HTMLTableElement>(null);
  const closed = plan.batch.packed_at !== null;

  const focus = (row: number, column: number) => {
    const next = {
      row: Math.max(0, Math.min(plan.rows.length - 1, row)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setPlace(next);
    table.current?.querySelector<HTMLElement>(`[data-place="${next.row}:${next.column}"]`)?.focus();
  };

  const open = (row: number, column: number, text?: string) => {
    const [atRow, atColumn] = [plan.rows[row], columns[column]];
    if (closed || !atRow || !atColumn) return;
    if (atColumn.kind === 'cell' && leftOut(atRow, atColumn.componentId)) return;
    setPlace({ row, column });
    setEditing({ row, column, text: text ?? editableText(atRow, atColumn), fault: null, sending: false });
  };

  const accept = async (moveOn: boolean) => {
    if (!editing || editing.sending) return;
    const [row, column] = [plan.rows[editing.row], columns[editing.column]];
    if (!row || !column) return;
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
    if (moveOn) focus(editing.row, editing.column);
  };

  const onKey = (event: KeyboardEvent, row: number, column: number) => {
    const [atRow, atColumn] = [plan.rows[row], columns[column]];
    if (!atRow || !atColumn || event.ctrlKey || event.metaKey || event.altKey) return;
    const moves: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const move = moves[event.key];
    if (move) focus(row + move[0], column + move[1]);
    else if (event.key === 'Home') focus(row, 0);
    else if (event.key === 'End') focus(row, columns.length - 1);
    else if (event.key === 'Enter' || event.key === 'F2') open(row, column);
    else if (/^[0-9.]$/.test(event.key)) open(row, column, event.key);
    else if (event.key === 'Delete' || event.key === 'Backspace') open(row, column, '');
    else if (closed) return;
    else if (event.key === '[') void onChange((now) => nudge(now, atRow.id, atColumn, -1));
    else if (event.key === ']') void onChange((now) => nudge(now, atRow.id, atColumn, 1));
    else if (event.key.toLowerCase() === 'p' && atColumn.kind === 'cell') {
      void onChange((now) => togglePin(now, atRow.id, atColumn.componentId));
    } else return;
    event.preventDefault();
  };

  const shared = { editing, place, setEditing, accept, open, onKey, setPlace };
  return (
    <div className="overflow-x-auto rounded-xl border border-steel bg-sheet">
      <table ref={table} className="w-full table-fixed border-collapse">
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
          <col className="w-[56px]" />
          {TARGETS.map((key) => (
            <col key={key} className="w-[66px]" />
          ))}
        </colgroup>
        <thead>
          <tr className="bg-bench align-bottom">
            <th scope="col" className="border-r border-steel p-2.5 text-left text-sm font-medium text-muted">
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
                className={`p-1 pb-2.5 text-center text-sm font-semibold ${MACROS[key].text}`}
              >
                {MACROS[key].short}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {plan.rows.map((row, number) => (
            <tr
              key={row.id}
              className={`border-t ${plan.rows[number - 1]?.client_id === row.client_id ? 'border-dashed' : ''} border-steel ${
                row.id === chosenRow ? 'bg-chosen' : ''
              } ${row.count === 0 ? 'opacity-60' : ''}`}
            >
              <th scope="row" className="border-r border-steel p-0 text-left align-top font-normal">
                <button
                  type="button"
                  onClick={() => onRow(row.id)}
                  aria-label={`${row.client}, ${slotName(row.slot, row.day_type)}: what is in this container`}
                  className="min-h-12 w-full px-2.5 py-1.5 text-left hover:underline"
                >
                  {plan.rows[number - 1]?.client_id === row.client_id ? null : (
                    <span className="block leading-tight font-semibold">{row.client}</span>
                  )}
                  <span className="block text-sm text-muted">{slotName(row.slot, row.day_type)}</span>
                </button>
              </th>
              {columns.map((column, at) => (
                <EditableCell
                  key={
                    column.kind === 'cell'
                      ? column.componentId
                      : column.kind === 'target'
                        ? column.nutrient
                        : 'count'
                  }
                  {...shared}
                  plan={plan}
                  row={row}
                  rowNumber={number}
                  column={column}
                  columnNumber={at}
                  moved={moved}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

const leftOut = (row: Row, componentId: string) =>
  (row.cells.find((cell) => cell.component_id === componentId)?.left_out.length ?? 0) > 0;

function ComponentHead({
  component,
  was,
  chosen,
  onOpen,
}: {
  component: Plan['components'][number];
  was: number | undefined;
  chosen: boolean;
  onOpen: () => void;
}) {
  return (
    <th scope="col" className={`h-px border-r border-steel p-0 text-left ${chosen ? 'bg-chosen' : ''}`}>
      <button
        type="button"
        onClick={onOpen}
        className="flex h-full min-h-32 w-full flex-col justify-end px-2 py-2 text-left font-normal hover:bg-steel/40"
      >
        <span className="text-xs text-muted">{component.role}</span>
        <span className="mb-1.5 font-heading leading-tight font-bold break-words">{component.name}</span>
        <YieldRibbon
          basis={component.basis_g}
          low={component.cooked_low_g}
          cooked={component.cooked_g}
          high={component.cooked_high_g}
          factor={component.yield_factor}
          measured={component.weighing !== null}
        />
        {component.spare_g < -0.5 ? (
          <strong className="figures text-xs text-alert">{weight(-component.spare_g)} short</strong>
        ) : was !== undefined ? (
          <span className="figures text-xs text-muted">was {weight(was)}</span>
        ) : null}
      </button>
    </th>
  );
}

type CellProps = {
  plan: Plan;
  row: Row;
  rowNumber: number;
  column: Column;
  columnNumber: number;
  moved: Map<string, number>;
  editing: Editing | null;
  place: { row: number; column: number };
  setEditing: (editing: Editing | null) => void;
  setPlace: (place: { row: number; column: number }) => void;
  accept: (moveOn: boolean) => Promise<void>;
  open: (row: number, column: number, text?: string) => void;
  onKey: (event: KeyboardEvent, row: number, column: number) => void;
};

/** One figure that can be moved to, typed into and nudged. The total stands before the first target. */
function EditableCell(props: CellProps) {
  const { plan, row, rowNumber, column, columnNumber, editing, place, moved } = props;
  const isEdited = editing?.row === rowNumber && editing.column === columnNumber;
  const isHere = place.row === rowNumber && place.column === columnNumber;
  const cell =
    column.kind === 'cell' ? row.cells.find((one) => one.component_id === column.componentId) : undefined;
  const held = cell && (cell.limit === 'pinned' || cell.limit === 'left out');
  const edges = column.kind === 'target' ? '' : 'border-r border-steel';
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
              requestAnimationFrame(() =>
                document.querySelector<HTMLElement>(`[data-place="${rowNumber}:${columnNumber}"]`)?.focus(),
              );
            }}
          />
        ) : (
          <button
            type="button"
            data-place={`${rowNumber}:${columnNumber}`}
            tabIndex={isHere ? 0 : -1}
            onFocus={() => props.setPlace({ row: rowNumber, column: columnNumber })}
            onKeyDown={(event) => props.onKey(event, rowNumber, columnNumber)}
            onDoubleClick={() => props.open(rowNumber, columnNumber)}
            className="block min-h-12 w-full px-1.5 py-1 text-left focus:bg-chosen"
          >
            {column.kind === 'count' ? <CountFace row={row} was={moved.get(`${row.id}/count`)} /> : null}
            {cell ? (
              <CellFace plan={plan} cell={cell} was={moved.get(`${row.id}/${cell.component_id}`)} />
            ) : null}
            {column.kind === 'target' ? (
              <GaugeFace row={row} nutrient={column.nutrient} moved={moved} />
            ) : null}
          </button>
        )}
      </td>
    </>
  );
}

function CountFace({ row, was }: { row: Row; was: number | undefined }) {
  return (
    <span className="block text-right">
      <span className="figures text-lg font-semibold">
        <span className="text-sm font-normal text-muted">×</span>
        {row.count}
      </span>
      {row.capacity_ml ? (
        <span className="figures block text-xs whitespace-nowrap text-muted">
          {wholeNumber(row.capacity_ml)} ml
        </span>
      ) : null}
      <Was value={was} narrow />
    </span>
  );
}

function CellFace({ plan, cell, was }: { plan: Plan; cell: Row['cells'][number]; was: number | undefined }) {
  const component = plan.components.find((one) => one.id === cell.component_id);
  const low = component?.minimum_g ?? 0;
  const reach = Math.max((component?.maximum_g ?? 0) - low, 1);
  const marker = 100 * Math.max(0, Math.min(1, (cell.grams - low) / reach));
  const note = cell.limit === 'free' || cell.limit === 'set by its school' ? '' : cell.limit;
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        {/* An estimate looks like one: lighter, with a "~". */}
        <span className={`figures text-xl ${cell.estimated ? 'font-normal text-muted' : 'font-semibold'}`}>
          {cell.estimated ? '~' : ''}
          {cell.units === null ? exactGrams(cell.grams) : unitCount(cell.units)}
          {cell.units === null ? null : (
            <span className="text-sm font-normal"> {unitWord(component?.school, cell.units)}</span>
          )}
        </span>
        {note ? (
          <span
            className={`text-right text-xs leading-tight ${note.startsWith('at') || note.startsWith('its') ? 'text-alert' : 'text-muted'}`}
          >
            {note}
          </span>
        ) : null}
      </span>
      <span aria-hidden className="relative mt-1 block h-2">
        <span className="absolute inset-x-0 top-1 h-px bg-steel" />
        <span className="absolute top-0 h-2 w-[3px] -translate-x-1/2 bg-ink" style={{ left: `${marker}%` }} />
      </span>
      {cell.units !== null ? (
        <span className="figures block text-xs text-muted">{exactWeight(cell.grams)}</span>
      ) : cell.estimated ? (
        <span className="block text-xs text-muted">by eye</span>
      ) : cell.mixed_g !== null ? (
        <span className="figures block text-xs text-muted">of {exactWeight(cell.mixed_g)} mixed</span>
      ) : null}
      {cell.left_out.length ? (
        <span className="block text-xs font-medium text-alert">no {cell.left_out.join(', ')}</span>
      ) : cell.disliked.length ? (
        <span className="block text-xs text-muted">dislikes {cell.disliked.join(', ')}</span>
      ) : null}
      <Was value={was} />
    </>
  );
}

function GaugeFace({
  row,
  nutrient,
  moved,
}: {
  row: Row;
  nutrient: (typeof TARGETS)[number];
  moved: Map<string, number>;
}) {
  const gauge = row.gauges.find((one) => one.nutrient === nutrient);
  const was = moved.get(`${row.id}/${nutrient}`);
  if (!gauge) {
    return (
      <span className="block text-center">
        <span className="figures text-sm">{wholeNumber(macroShown(nutrient, row.amounts[nutrient]))}</span>
        <Was value={was === undefined ? was : macroShown(nutrient, was)} narrow />
      </span>
    );
  }
  return (
    <>
      <GaugeLevel gauge={gauge} nutrient={nutrient} />
      <Was value={was === undefined ? was : macroShown(nutrient, was)} narrow />
    </>
  );
}

/** What a figure was before the last action; struck out where there is no room for the word. */
function Was({ value, narrow = false }: { value: number | undefined; narrow?: boolean }) {
  if (value === undefined) return null;
  return (
    <span className="figures block text-right text-xs whitespace-nowrap text-focus">
      {narrow ? (
        <>
          <span className="sr-only">was </span>
          <s>{exactNumber(value)}</s>
        </>
      ) : (
        `was ${exactGrams(value)}`
      )}
    </span>
  );
}

function CellEditor({
  name,
  editing,
  onText,
  onAccept,
  onLeave,
}: {
  name: string;
  editing: Editing;
  onText: (text: string) => void;
  onAccept: (moveOn: boolean) => Promise<void>;
  onLeave: () => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    input.current?.focus();
    // A cell opened by a digit goes on after it; one opened by Enter is typed over.
    if (input.current && input.current.value.length > 1) input.current.select();
  }, []);
  return (
    <span className="block p-1">
      <input
        ref={input}
        aria-label={name}
        aria-invalid={editing.fault !== null}
        inputMode="decimal"
        value={editing.text}
        onChange={(event) => onText(event.target.value)}
        onBlur={() => void onAccept(false)}
        onKeyDown={(event) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            void onAccept(true);
          }
          if (event.key === 'Escape') onLeave();
        }}
        className="figures min-h-11 w-full rounded-md border-2 border-focus bg-sheet px-1.5 text-lg font-semibold"
      />
      {editing.fault ? (
        <span role="alert" className="block text-xs font-medium text-alert">
          {editing.fault}
        </span>
      ) : null}
    </span>
  );
}
