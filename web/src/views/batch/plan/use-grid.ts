import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { Problem } from '~/api/client';
import { keepDraft, readDraft } from '~/lib/use-draft';
import { showProblem } from '~/parts/show-problem';
import type { Change, Plan } from '~/views/batch/frame/use-plan';
import {
  type Column,
  columnKey,
  columnsOf,
  editableText,
  isShutIn,
  nudge,
  readTyped,
  togglePin,
  typedChange,
} from '~/views/batch/plan/columns';
import { clientOf, isWalkable, keyOf, type Line, linesOf } from '~/views/batch/plan/lines';
import type { Editing } from '~/views/batch/plan/plan-cells';
import { useAhead } from '~/views/batch/plan/use-ahead';

export type GridProps = {
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
  onDish: (id: string) => void;
};

/** Above so many lines only those in view are drawn, in a frame that scrolls. */
const MOST_DRAWN = 30;
const LINE_PX = 62;
const DISH_PX = 190;

const isSame = (one: Editing | null, other: Editing) =>
  one?.line === other.line && one.column === other.column;

type TypedBefore = { row: string; column: string; text: string };

/** The cell that was being typed into when the page was left, with its text. */
function typedBefore(plan: Plan, draft: string): Editing | null {
  const kept = readDraft<TypedBefore>(draft);
  if (!kept || plan.batch.packed_at !== null) return null;
  const lines = linesOf(plan, new Set(), false);
  const line = lines.findIndex((one) => one.kind === 'row' && one.row.id === kept.row);
  const column = columnsAt(plan, lines[line]).findIndex((one) => columnKey(one) === kept.column);
  return line < 0 || column < 0 ? null : { line, column, text: kept.text, fault: null, sending: false };
}

/** The columns of a line; the lines of a folded client have those of the first of them. */
function columnsAt(plan: Plan, line: Line | undefined): Column[] {
  const row = line?.kind === 'row' ? line.row : line?.kind === 'folded' ? line.rows[0] : undefined;
  return row ? columnsOf(plan, row) : [];
}

export type Grid = ReturnType<typeof useGrid>;

/** Where one is in the plan, what is being typed there, and what keys do. */
export function useGrid({ plan, onChange, onAct }: GridProps) {
  'use no memo'; // The virtualizer tells of what is in view by changing itself.
  const [folded, setFolded] = useState<Set<string>>(new Set());
  const [onlyOff, setOnlyOff] = useState(false);
  const [place, setPlace] = useState({ line: plan.dishes.length > 1 ? 1 : 0, column: 1 });
  const draft = `plan/${plan.batch.id}/cell`;
  const [editing, setEditing] = useState<Editing | null>(() => typedBefore(plan, draft));
  const latest = useRef(editing);
  latest.current = editing;
  const [ahead, step] = useAhead();
  const frame = useRef<HTMLDivElement>(null);
  const wantsFocus = useRef(false);
  const closed = plan.batch.packed_at !== null;
  const lines = linesOf(plan, folded, onlyOff);
  useEffect(() => {
    const line = editing ? lines[editing.line] : undefined;
    const column = editing ? columnsAt(plan, line)[editing.column] : undefined;
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
    estimateSize: (at) => (lines[at]?.kind === 'dish' ? DISH_PX : LINE_PX),
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
  /** Go to a place, over heads of dishes and columns that a dish does not have, the way one was going. */
  const focus = (line: number, column: number, down = 1, right = -1) => {
    const walkable = nearest(lines.length, line, down, (at) => isWalkable(lines[at]));
    const columns = columnsAt(plan, lines[walkable]);
    const next = {
      line: walkable,
      column: nearest(columns.length, column, right, (at) => columns[at]?.kind !== 'none'),
    };
    setPlace(next);
    if (virtual) virtualizer.scrollToIndex(next.line);
    const cell = find(next.line, next.column);
    if (cell) cell.focus();
    else wantsFocus.current = true;
  };
  // A cell that is scrolled to, or that was being typed into, is there only after the next drawing. It is focused in the
  // same moment: whoever goes elsewhere after it is not called back.
  useLayoutEffect(() => {
    if (!wantsFocus.current) return;
    const cell = find(place.line, place.column);
    if (!cell) return;
    wantsFocus.current = false;
    cell.focus();
  });

  const open = (line: number, column: number, text?: string) => {
    const at = lines[line];
    const atColumn = columnsAt(plan, at)[column];
    if (closed || at?.kind !== 'row' || !atColumn) return;
    if (atColumn.kind === 'cell' && isShutIn(at.row, atColumn.componentId)) return;
    setPlace({ line, column });
    setEditing({ line, column, text: text ?? editableText(at.row, atColumn), fault: null, sending: false });
  };

  const accept = async (moveOn: boolean) => {
    if (!editing || editing.sending) return;
    const line = lines[editing.line];
    const column = columnsAt(plan, line)[editing.column];
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
        const fault = problem.errors?.[0]?.message ?? problem.detail;
        if (isSame(latest.current, editing)) setEditing({ ...editing, fault, sending: false });
        else showProblem(problem);
        return;
      }
    }
    // By the time of the answer another cell may be typed into: that one stays as it is.
    const field = frame.current?.querySelector('[data-typed-into]');
    if (!isSame(latest.current, editing)) return;
    setEditing(null);
    if (moveOn && field?.contains(document.activeElement)) focus(editing.line, editing.column);
  };

  const fold = (id: string, at: number) => {
    const next = new Set(folded);
    if (!next.delete(id)) next.add(id);
    setFolded(next);
    if (plan.dishes.some((dish) => dish.id === id)) return;
    const head = linesOf(plan, next, onlyOff).findIndex((line) => clientOf(line) === id);
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
    if (step) focus(line + step[0], column + step[1], step[0] || 1, step[1] || -1);
    else if (event.key === 'Home') focus(line, 0);
    else if (event.key === 'End') focus(line, columnsAt(plan, lines[line]).length - 1);
    else return false;
    return true;
  };

  const onKey = (event: KeyboardEvent, line: number, column: number) => {
    const at = lines[line];
    const atColumn = columnsAt(plan, at)[column];
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

  return {
    lines,
    shown,
    above,
    below,
    virtual,
    frame,
    measure: virtualizer.measureElement,
    folded,
    setFolded,
    onlyOff,
    setOnlyOff,
    ahead,
    editing,
    setEditing,
    place,
    setPlace,
    wantFocus: () => {
      wantsFocus.current = true;
    },
    accept,
    open,
    fold,
    move,
    onKey,
  };
}

/** The place nearest to one in a direction that will do, else the other way, inside `count` places. */
function nearest(count: number, wanted: number, direction: number, willDo: (at: number) => boolean) {
  const start = Math.max(0, Math.min(count - 1, wanted));
  for (const way of [direction, -direction])
    for (let at = start; at >= 0 && at < count; at += way) if (willDo(at)) return at;
  return start;
}
