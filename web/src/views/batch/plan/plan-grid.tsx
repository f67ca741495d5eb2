import { MacroName } from '~/food/macros';
import { type Key, useListed } from '~/lib/keys';
import { massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import { columnKey, columnsOf, TARGETS } from '~/views/batch/plan/columns';
import { headsOf, widest } from '~/views/batch/plan/dishes';
import { EditableCell } from '~/views/batch/plan/editable-cell';
import {
  DishHead,
  FoldedLine,
  FROZEN_LEFT,
  frozenRight,
  Gap,
  Heads,
  lineClass,
  RowHead,
  SumCells,
  Totals,
} from '~/views/batch/plan/grid-lines';
import { foldable, isOff, keyOf } from '~/views/batch/plan/lines';
import { type GridProps, useGrid } from '~/views/batch/plan/use-grid';

/** From so many lines on the plan can be narrowed and folded as a whole. */
const MANY = 12;

const KEYS: Key[] = [
  ['← ↑ → ↓', 'move in the plan'],
  ['0 – 9', 'type grams, a target or a number of containers'],
  ['Enter', 'change the cell; accept what was typed'],
  ['Esc', 'leave the cell as it was'],
  ['P', 'pin the grams of a cell, or free it'],
  ['[ and ]', 'less or more by one step of the scale'],
  ['F', 'fold or unfold the lines of a client'],
];

/** Every container of the batch: grams by component, and how each stands to its target. */
export function PlanGrid(props: GridProps) {
  'use no memo';
  useListed('In the plan', KEYS);
  const { plan, moved, chosenComponent, onAct, onComponent } = props;
  const grid = useGrid(props);
  const { lines, virtual } = grid;
  const [only] = plan.dishes;
  const several = plan.dishes.length > 1;
  const places = Array.from({ length: widest(plan) }, (_, place) => place);
  const groups = foldable(plan);
  return (
    <div className="overflow-hidden rounded-xl border border-steel bg-sheet">
      {plan.rows.length > MANY ? (
        <div className="flex flex-wrap items-center gap-x-5 border-b border-steel px-3 py-1">
          <Tick
            label={`Only what is off its target (${plan.rows.filter(isOff).length})`}
            checked={grid.onlyOff}
            onChange={grid.setOnlyOff}
          />
          {groups.size ? (
            <Button look="quiet" onClick={() => grid.setFolded(grid.folded.size ? new Set() : groups)}>
              {grid.folded.size ? 'Unfold all clients' : 'Fold all clients'}
            </Button>
          ) : null}
        </div>
      ) : null}
      <div
        ref={grid.frame}
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
            {places.map((place) => (
              <col key={place} className="w-[104px]" />
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
              {several ? (
                <th
                  scope="col"
                  colSpan={places.length}
                  className="border-r border-steel p-2.5 text-left text-sm font-medium text-muted"
                >
                  Parts of each dish, {massUnit()} in one container
                </th>
              ) : (
                <Heads
                  plan={plan}
                  heads={headsOf(plan, only)}
                  moved={moved}
                  chosen={chosenComponent}
                  onOpen={onComponent}
                />
              )}
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
            {grid.above > 0 ? <Gap height={grid.above} /> : null}
            {grid.shown.map((at) => {
              const line = lines[at];
              if (!line) return null;
              return (
                <tr
                  key={keyOf(line)}
                  ref={virtual ? grid.measure : null}
                  data-index={at}
                  aria-rowindex={at + 2}
                  className={lineClass(line, props.chosenRow)}
                >
                  {line.kind === 'dish' ? (
                    <DishHead
                      plan={plan}
                      line={line}
                      moved={moved}
                      chosenComponent={chosenComponent}
                      onComponent={onComponent}
                      onDish={props.onDish}
                      onFold={() => grid.fold(line.dish.id, at)}
                    />
                  ) : line.kind === 'totals' ? (
                    <SumCells plan={plan} rows={line.rows} heads={headsOf(plan, line.dish)} moved={moved} />
                  ) : line.kind === 'folded' ? (
                    <FoldedLine
                      line={line}
                      at={at}
                      span={places.length + TARGETS.length + 2}
                      onUnfold={() => grid.fold(line.clientId, at)}
                      onMove={(event) => {
                        if (grid.move(event, at, grid.place.column)) event.preventDefault();
                      }}
                      onFocus={() => grid.setPlace({ line: at, column: grid.place.column })}
                    />
                  ) : (
                    <>
                      <RowHead
                        line={line}
                        onOpen={() => props.onRow(line.row.id)}
                        onFold={() => grid.fold(line.row.client_id, at)}
                      />
                      {columnsOf(plan, line.row).map((column, columnNumber) => (
                        <EditableCell
                          key={columnKey(column)}
                          grid={grid}
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
            {grid.below > 0 ? <Gap height={grid.below} /> : null}
          </tbody>
          <Totals plan={plan} moved={moved} stuck={virtual} />
        </table>
      </div>
    </div>
  );
}
