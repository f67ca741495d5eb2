import type { MacroKey } from '~/food/nutrients';
import { asMacro, asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { stepOf, unitOf } from '~/lib/schools';
import { energyUnit, macroStored } from '~/lib/units';
import type { Change, Plan } from '~/views/batch/frame/use-plan';
import { columnCount, type DishPart, dishOf, headsOf, partOf, widest } from '~/views/batch/plan/dishes';

export type Row = Plan['rows'][number];

/** Why something is left out or not liked, in a few words. */
export const reasonWords = (reasons: { word: string }[]) => reasons.map((one) => one.word).join(', ');

/**
 * A column of the plan that can be typed into. `open` is a part of a group that is not chosen yet, `none` where another
 * dish has more parts.
 */
export type Column =
  | { kind: 'count' }
  | { kind: 'cell'; componentId: string; unitG: number | null }
  | { kind: 'open'; group: string; place: number }
  | { kind: 'none'; place: number }
  | { kind: 'target'; nutrient: MacroKey };

export const TARGETS: MacroKey[] = ['protein_g', 'carbohydrate_g', 'fat_g', 'kcal'];

const cellOf = (part: DishPart): Column => ({ kind: 'cell', componentId: part.id, unitG: unitOf(part) });

/**
 * The columns of a row: of a group those parts that it chose. There are as many for each dish, so that what is below
 * another is the same.
 */
export function columnsOf(plan: Plan, row: { dish_id: string; chosen: string[] }): Column[] {
  const heads = headsOf(plan, dishOf(plan, row));
  const missing = Array.from({ length: widest(plan) - columnCount(heads) }, (_, place) => place);
  return [
    { kind: 'count' },
    ...heads.flatMap((head): Column[] => {
      if (head.kind === 'part') return [cellOf(head.part)];
      const chosen = head.members.filter((part) => row.chosen.includes(part.id));
      return Array.from({ length: head.span }, (_, place) => {
        const part = chosen[place];
        return part ? cellOf(part) : { kind: 'open', group: head.name, place };
      });
    }),
    ...missing.map((place): Column => ({ kind: 'none', place })),
    ...TARGETS.map((nutrient): Column => ({ kind: 'target', nutrient })),
  ];
}

export const columnName = (plan: Plan, column: Column) =>
  column.kind === 'count'
    ? 'containers'
    : column.kind === 'none'
      ? ''
      : column.kind === 'open'
        ? column.group
        : column.kind === 'cell'
          ? `${column.unitG === null ? 'grams' : 'number'} of ${plan.components.find((one) => one.id === column.componentId)?.name ?? ''}`
          : `target for ${column.nutrient === 'kcal' ? energyUnit() : column.nutrient.replace('_g', '')}`;

/** What stands in the editor when a cell is opened. */
export function editableText(row: Row, column: Column): string {
  if (column.kind === 'none' || column.kind === 'open') return '';
  if (column.kind === 'count') return asText(row.count);
  if (column.kind === 'target') return asMacro(column.nutrient, row.target[column.nutrient]);
  const cell = row.cells.find((one) => one.component_id === column.componentId);
  return column.unitG === null ? asWeight(cell?.grams) : asText(cell?.units ?? null);
}

/** What was typed into a cell: grams, pieces or kcal; a sum of weights stays a text that the server reads. */
export function readTyped(column: Column, text: string) {
  if (column.kind === 'cell' && column.unitG === null) return readWeight(text);
  const typed = readNumber(text);
  if (column.kind !== 'target' || typed.value === null) return typed;
  return { ...typed, value: macroStored(column.nutrient, typed.value) };
}

/** The containers of a row as they are, to change one thing about them. */
export const containersOf = (row: Row) => ({
  kind: 'containers' as const,
  row_id: row.id,
  count: row.count,
  capacity_ml: row.capacity_ml,
  capacity_g: row.capacity_g,
  plate_g: row.plate_g,
  rank: row.rank,
  helping: row.helping,
});

/** The change that a typed value makes. Nothing typed frees a pin, or drops an aim. */
export function typedChange(row: Row, column: Column, typed: number | string | null): Change {
  if (column.kind === 'cell') {
    const grams = column.unitG === null || typed === null ? typed : Number(typed) * column.unitG;
    return { kind: 'pin', row_id: row.id, component_id: column.componentId, grams };
  }
  const value = typed === null ? null : Number(typed);
  if (column.kind !== 'target') {
    return { ...containersOf(row), count: value ?? 0 };
  }
  return { kind: 'target', row_id: row.id, ...row.target, [column.nutrient]: value };
}

/** A row of a plan by then; as it was where it is gone. */
export const rowIn = (plan: Plan, row: Row) => findRow(plan, row.id) ?? row;
const findRow = (plan: Plan, rowId: string) => plan.rows.find((row) => row.id === rowId);

/** Pin the cell at what it holds now, or free it. */
export function togglePin(plan: Plan, rowId: string, componentId: string): Change[] {
  const cell = findRow(plan, rowId)?.cells.find((one) => one.component_id === componentId);
  if (!cell || isShut(cell)) return [];
  const grams = cell.pinned_g === null ? cell.grams : null;
  return [{ kind: 'pin', row_id: rowId, component_id: componentId, grams }];
}

/** One step of the scale, one piece or one scoop more or less; whole steps only, none below zero. */
export function nudge(plan: Plan, rowId: string, column: Column, direction: 1 | -1): Change[] {
  const row = findRow(plan, rowId);
  if (!row) return [];
  if (column.kind === 'count') {
    const count = row.count + direction;
    return count < 0 ? [] : [typedChange(row, column, count)];
  }
  if (column.kind === 'none' || column.kind === 'open') return [];
  if (column.kind === 'target') {
    const now = row.target[column.nutrient];
    const step = column.nutrient === 'kcal' ? 10 : 1;
    return now === null || now + direction * step < 0
      ? []
      : [typedChange(row, column, now + direction * step)];
  }
  const cell = row.cells.find((one) => one.component_id === column.componentId);
  if (!cell || isShut(cell)) return [];
  const step = stepOf(partOf(plan, row, column.componentId), plan.batch.step_g);
  const grams = (Math.round(cell.grams / step) + direction) * step;
  // Of a sum that waits for the server nobody knows yet what one step more is.
  return grams >= 0 ? [{ kind: 'pin', row_id: row.id, component_id: column.componentId, grams }] : [];
}

/** Nothing can be typed into it: it is left out, or of a group of which another part was chosen. */
export const isShut = (cell: Row['cells'][number]) => cell.left_out.length > 0 || cell.limit === 'not chosen';

export const isShutIn = (row: Row, componentId: string) => {
  const cell = row.cells.find((one) => one.component_id === componentId);
  return cell === undefined || isShut(cell);
};

export const columnKey = (column: Column) =>
  column.kind === 'cell'
    ? column.componentId
    : column.kind === 'target'
      ? column.nutrient
      : column.kind === 'none' || column.kind === 'open'
        ? `${column.kind} ${column.kind === 'open' ? column.group : ''} ${column.place}`
        : 'count';
