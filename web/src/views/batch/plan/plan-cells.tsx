import { type PointerEvent, useLayoutEffect, useRef } from 'react';
import { GaugeLevel } from '~/food/level';
import { exactGrams, exactNumber, exactWeight, wholeNumber } from '~/lib/format';
import { unitCount, unitWord } from '~/lib/schools';
import { macroShown } from '~/lib/units';
import { type Row, reasonWords, type TARGETS } from '~/views/batch/plan/columns';
import type { DishPart } from '~/views/batch/plan/dishes';

export type Editing = { line: number; column: number; text: string; fault: string | null; sending: boolean };

/** Takes the grams that a figure was dragged to; null when it is let go. */
export type DragTo = (grams: number | null) => void;

/** How many containers of a line there are, and what one holds. */
export function CountFace({ row, was }: { row: Row; was: number | undefined }) {
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

/** The grams of a component in a container, with what holds them. The mark below can be dragged. */
export function CellFace({
  part,
  cell,
  was,
  onDrag,
}: {
  part: DishPart | undefined;
  cell: Row['cells'][number];
  was: number | undefined;
  onDrag: DragTo | null;
}) {
  const low = part?.minimum_g ?? 0;
  const reach = Math.max((part?.maximum_g ?? part?.usual_most_g ?? 0) - low, 1);
  const marker = 100 * Math.max(0, Math.min(1, (cell.grams - low) / reach));
  const note = cell.limit === 'free' || cell.limit === 'as portioned' ? '' : cell.limit;
  return (
    <>
      <span className="flex items-baseline justify-between gap-1">
        {/* An estimate looks like one: lighter, with a "~". */}
        <span className={`figures text-xl ${cell.estimated ? 'font-normal text-muted' : 'font-semibold'}`}>
          {cell.estimated ? '~' : ''}
          {cell.units === null ? exactGrams(cell.grams) : unitCount(cell.units)}
          {cell.units === null ? null : (
            <span className="text-sm font-normal"> {unitWord(part?.school, cell.units)}</span>
          )}
        </span>
        {note ? (
          <span
            className={`text-right text-xs leading-tight ${note.startsWith('at') || note.startsWith('its') || note.endsWith('full') ? 'text-alert' : 'text-muted'}`}
          >
            {note}
          </span>
        ) : null}
      </span>
      <DragMark
        marker={marker}
        onDrag={onDrag ? (share) => onDrag(low + share * reach) : null}
        onDrop={() => onDrag?.(null)}
      />
      {part?.group ? <span className="block text-xs leading-tight font-medium">{part.name}</span> : null}
      {cell.units !== null ? (
        <span className="figures block text-xs text-muted">{exactWeight(cell.grams)}</span>
      ) : cell.estimated ? (
        <span className="block text-xs text-muted">by eye</span>
      ) : cell.mixed_g !== null ? (
        <span className="figures block text-xs text-muted">of {exactWeight(cell.mixed_g)} mixed</span>
      ) : null}
      {cell.left_out.length ? (
        <span className="block text-xs font-medium text-alert">no {reasonWords(cell.left_out)}</span>
      ) : cell.disliked.length ? (
        <span className="block text-xs text-muted">dislikes {reasonWords(cell.disliked)}</span>
      ) : null}
      <Was value={was} />
    </>
  );
}

/** How a container stands to one target, or just what it holds. */
export function GaugeFace({
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
export function Was({ value, narrow = false }: { value: number | undefined; narrow?: boolean }) {
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

/** The field in which a figure of the plan is typed. */
export function CellEditor({
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
  useLayoutEffect(() => {
    input.current?.focus();
    // A cell opened by a digit goes on after it; one opened by Enter is typed over.
    if (input.current && input.current.value.length > 1) input.current.select();
  }, []);
  return (
    <span className="block p-1">
      <input
        ref={input}
        data-typed-into
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

/** The mark between the least and the most of a component; dragging it moves the grams. */
function DragMark({
  marker,
  onDrag,
  onDrop,
}: {
  marker: number;
  onDrag: ((share: number) => void) | null;
  onDrop: () => void;
}) {
  const track = useRef<HTMLSpanElement>(null);
  const move = (event: PointerEvent) => {
    const box = track.current?.getBoundingClientRect();
    if (!box || !onDrag || !event.currentTarget.hasPointerCapture(event.pointerId)) return;
    onDrag(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
  };
  return (
    <span
      aria-hidden
      data-drag={onDrag ? true : undefined}
      className={`relative -my-1 block h-5 ${onDrag ? 'cursor-ew-resize touch-none' : ''}`}
      onPointerDown={(event) => {
        if (onDrag) event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={onDrop}
      onPointerCancel={onDrop}
    >
      <span ref={track} className="absolute inset-x-0 top-2.5 h-px bg-steel" />
      <span className="absolute top-1.5 h-2 w-[3px] -translate-x-1/2 bg-ink" style={{ left: `${marker}%` }} />
    </span>
  );
}
