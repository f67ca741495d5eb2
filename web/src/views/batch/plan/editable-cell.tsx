import { type ReactNode, useRef, useState } from 'react';
import { grams, price } from '~/lib/format';
import { stepOf, unitOf } from '~/lib/schools';
import { budgetOf, budgetWords, useCostOf } from '~/views/batch/frame/costs';
import type { Change, Plan } from '~/views/batch/frame/use-plan';
import { type Column, columnName, isShut, type Row } from '~/views/batch/plan/columns';
import { partOf } from '~/views/batch/plan/dishes';
import { frozenRight } from '~/views/batch/plan/grid-lines';
import { CellEditor, CellFace, CountFace, GaugeFace, Was } from '~/views/batch/plan/plan-cells';
import { aheadKey } from '~/views/batch/plan/use-ahead';
import type { Grid, GridProps } from '~/views/batch/plan/use-grid';

export type CellProps = {
  plan: Plan;
  row: Row;
  lineNumber: number;
  column: Column;
  columnNumber: number;
  moved: Map<string, number>;
  grid: Grid;
  onAct: GridProps['onAct'];
  onPreview: GridProps['onPreview'];
};

/** One figure that can be moved to, typed into, nudged and dragged. The total stands before the first target. */
export function EditableCell(props: CellProps) {
  const { plan, row, lineNumber, column, columnNumber, moved, grid } = props;
  const { editing, place } = grid;
  const isEdited = editing?.line === lineNumber && editing.column === columnNumber;
  const isHere = place.line === lineNumber && place.column === columnNumber;
  const cell =
    column.kind === 'cell' ? row.cells.find((one) => one.component_id === column.componentId) : undefined;
  const held = cell && (cell.limit === 'pinned' || cell.limit === 'left out');
  const shown = useCostOf(row.id);
  const budget = budgetOf(row);
  const cost = budget ? price(budget.amount) : shown;
  if (column.kind === 'none') return <td className="border-r border-steel bg-bench/60" />;
  const edges = column.kind === 'target' ? frozenRight(column.nutrient) : 'border-r border-steel';
  return (
    <>
      {column.kind === 'target' && column.nutrient === 'protein_g' ? (
        <td className="figures border-r border-steel px-1.5 text-right align-top">
          <span className="block pt-1.5 text-muted">{grams(row.total_g)}</span>
          <Was value={moved.get(`${row.id}/total`)} narrow />
          {cost ? (
            <span
              className={`block text-xs leading-tight ${budget?.miss ? 'font-semibold text-alert' : ''}`}
              title={budget ? budgetWords(budget) : undefined}
            >
              {cost}
            </span>
          ) : null}
        </td>
      ) : null}
      <td className={`p-0 align-top ${edges} ${held ? 'hatched' : ''}`}>
        {isEdited && editing ? (
          <CellEditor
            name={`${row.client}, ${columnName(plan, column)}`}
            editing={editing}
            onText={(text) => grid.setEditing({ ...editing, text, fault: null })}
            onAccept={grid.accept}
            onLeave={() => {
              grid.setEditing(null);
              grid.wantFocus();
            }}
          />
        ) : (
          <button
            type="button"
            data-place={`${lineNumber}:${columnNumber}`}
            tabIndex={isHere ? 0 : -1}
            onFocus={() => grid.setPlace({ line: lineNumber, column: columnNumber })}
            onKeyDown={(event) => grid.onKey(event, lineNumber, columnNumber)}
            onDoubleClick={() => grid.open(lineNumber, columnNumber)}
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
  grid: { ahead },
  onAct,
  onPreview,
}: CellProps & { cell: Row['cells'][number] | undefined }): ReactNode {
  const [dragged, setDragged] = useState<number | null>(null);
  const asked = useRef(Promise.resolve());
  if (column.kind === 'count') return <CountFace row={row} was={moved.get(`${row.id}/count`)} />;
  if (column.kind === 'target') return <GaugeFace row={row} nutrient={column.nutrient} moved={moved} />;
  if (!cell) return null;
  if (column.kind === 'open') return <span className="text-xs text-alert">{column.group} to choose</span>;
  if (column.kind === 'none') return null;
  const part = partOf(plan, row, column.componentId);
  const step = stepOf(part, plan.batch.step_g);
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
  const unit = unitOf(part);
  const held = dragged ?? ahead.get(aheadKey(row.id, column.componentId))?.grams ?? null;
  const units = unit === null || held === null ? cell.units : held / unit;
  const movable = plan.batch.packed_at === null && !isShut(cell);
  return (
    <CellFace
      part={part}
      cell={held === null ? cell : { ...cell, grams: held, units, limit: 'pinned' }}
      was={moved.get(`${row.id}/${cell.component_id}`)}
      onDrag={movable ? (to) => void drag(to) : null}
    />
  );
}
