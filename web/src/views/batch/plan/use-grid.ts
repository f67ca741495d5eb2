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
  leftOut,
  nudge,
  readTyped,
  togglePin,
  typedChange,
} from '~/views/batch/plan/columns';
import { clientOf, keyOf, linesOf } from '~/views/batch/plan/lines';
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
};

/** Above so many lines only those in view are drawn, in a frame that scrolls. */
const MOST_DRAWN = 30;
const LINE_PX = 62;

const isSame = (one: Editing | null, other: Editing) =>
  one?.line === other.line && one.column === other.column;

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

export type Grid = ReturnType<typeof useGrid>;

/** Where one is in the plan, what is being typed there, and what keys do. */
export function useGrid({ plan, onChange, onAct }: GridProps) {
  'use no memo'; // The virtualizer tells of what is in view by changing itself.
  const columns = columnsOf(plan);
  const [folded, setFolded] = useState<Set<string>>(new Set());
  const [onlyOff, setOnlyOff] = useState(false);
  const [place, setPlace] = useState({ line: 0, column: 1 });
  const draft = `plan/${plan.batch.id}/cell`;
  const [editing, setEditing] = useState<Editing | null>(() => typedBefore(plan, columns, draft));
  const latest = useRef(editing);
  latest.current = editing;
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

  return {
    columns,
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
