import { useCallback, useRef, useState } from 'react';
import type { Schemas } from '~/api/client';
import { marks, timeOfDay, timeWords } from '~/views/batch/cook/clock';

type Lane = Schemas['LaneView'];
type Block = Schemas['BlockView'];

const LOOKS: Record<string, string> = {
  hands: 'border-ink bg-bar text-on-bar',
  'goes on': 'hatched border-edge bg-sheet text-ink',
  'heats up': 'border-dashed border-edge bg-paper text-muted',
  away: 'border-dashed border-steel bg-bench text-muted',
};
const KIND_WORDS: Record<string, string> = {
  hands: 'hands on',
  'goes on': 'nobody needed',
  'heats up': 'heats up',
  away: 'away',
};
/** A finger that moves less has pressed, and not dragged. */
const LEAST_DRAG_PX = 8;

const STATES = {
  done: 'opacity-45',
  'going on': '!border-2 !border-ochre',
  'to come': 'border-dashed',
};
/** About as wide is a letter, and so much of a block is its edges [px]. */
const LETTER_PX = 7.6;
const EDGES_PX = 12;
const LEAST_LETTERS = 3;

/** As much of some words as a block of this width has room for; nothing where that tells nothing. */
export function fitting(words: string, widthPx: number): string {
  const room = Math.floor((widthPx - EDGES_PX) / LETTER_PX);
  if (words.length <= room) return words;
  return room > LEAST_LETTERS ? `${words.slice(0, room - 1).trimEnd()}…` : '';
}

/** How wide an element is on the screen [px]. */
function useWidth() {
  const [width, setWidth] = useState(0);
  const take = useCallback((node: Element | null) => {
    if (!node) return;
    const observer = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    observer.observe(node);
    return () => observer.disconnect();
  }, []);
  return [width, take] as const;
}

type Props = {
  lanes: Lane[];
  from: number;
  until: number;
  /** The minute it is, while the day goes on. */
  now?: number;
  /** How it stands with each task, while the day goes on. */
  states?: ReadonlyMap<string, 'done' | 'going on' | 'to come'>;
  chosen: string | null;
  onChoose: (task: string) => void;
  /** A block that is to come was dragged: it is to begin at this minute, and stays there. */
  onHold?: (task: string, minute: number) => void;
};

/** People and equipment as lanes of the day: solid is hands on, hatched needs nobody. */
export function Lanes({ lanes, from, until, now, states, chosen, onChoose, onHold }: Props) {
  const scale = marks(from, until);
  const [width, measured] = useWidth();
  const share = (minute: number) => (minute - from) / (until - from);
  const shown = lanes
    .map((lane) => ({
      ...lane,
      blocks: lane.blocks.filter((block) => block.end_min > from && block.start_min < until),
    }))
    .filter((lane) => lane.is_person || lane.blocks.length);
  return (
    <div className="min-w-0">
      <div ref={measured} className="relative ml-28 h-5 text-sm text-muted" aria-hidden>
        {scale.map((minute) => (
          <span
            key={minute}
            className="figures absolute -translate-x-1/2"
            style={{ left: `${100 * share(minute)}%` }}
          >
            {timeOfDay(minute)}
          </span>
        ))}
      </div>
      <ul>
        {shown.map((lane, index) => (
          <li
            key={lane.key}
            aria-label={lane.name}
            className={`flex items-center ${
              lane.is_person !== shown[index - 1]?.is_person && index ? 'mt-1 border-t border-edge pt-1' : ''
            }`}
          >
            <span className="w-28 shrink-0 pr-2 leading-tight font-semibold">{lane.name}</span>
            <ol className="relative my-1 h-9 min-w-0 flex-1">
              {scale.map((minute) => (
                <li
                  key={`mark ${minute}`}
                  aria-hidden
                  className="absolute inset-y-0 w-px bg-steel"
                  style={{ left: `${100 * share(minute)}%` }}
                />
              ))}
              {lane.blocks.map((block) => (
                <LaneBlock
                  key={`${block.task} ${block.kind} ${block.start_min}`}
                  block={block}
                  width={width}
                  left={Math.max(0, share(block.start_min))}
                  right={Math.min(1, share(block.end_min))}
                  state={
                    block.kind === 'hands' || block.kind === 'goes on' ? states?.get(block.task) : undefined
                  }
                  isChosen={block.task === chosen}
                  onChoose={onChoose}
                  onDragged={
                    onHold && states?.get(block.task) === 'to come' && block.kind !== 'heats up'
                      ? (by) => onHold(block.task, Math.round(block.start_min + by * (until - from)))
                      : undefined
                  }
                />
              ))}
              {now !== undefined && now >= from && now <= until ? (
                <li
                  aria-hidden
                  className="pointer-events-none absolute -inset-y-1 z-10 w-0.5 bg-alert"
                  style={{ left: `${100 * share(now)}%` }}
                />
              ) : null}
            </ol>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-sm text-muted">
        Solid: hands on. Hatched: nobody needed.
        {states ? ' Dashed: to come. Ochre: going on. Pale: done.' : ''}
      </p>
    </div>
  );
}

function LaneBlock({
  block,
  width,
  left,
  right,
  state,
  isChosen,
  onChoose,
  onDragged,
}: {
  block: Block;
  /** Of the whole lane [px]. */
  width: number;
  left: number;
  right: number;
  state: 'done' | 'going on' | 'to come' | undefined;
  isChosen: boolean;
  onChoose: (task: string) => void;
  /** By which share of the lane. */
  onDragged: ((share: number) => void) | undefined;
}) {
  const [from, setFrom] = useState<number | null>(null);
  const [by, setBy] = useState(0);
  /** A drag ends with a click, which is none. */
  const wasDragged = useRef(false);
  const laneWidth = (of: Element) => of.closest('ol')?.getBoundingClientRect().width ?? 1;
  const told = `${block.says}, ${KIND_WORDS[block.kind]}, ${timeWords(block.start_min)} to ${timeWords(block.end_min)}`;
  const place = { left: `${100 * left}%`, width: `${100 * (right - left)}%` };
  const look = `absolute inset-y-0 overflow-hidden rounded-[4px] border px-1 text-left text-sm whitespace-nowrap ${LOOKS[block.kind] ?? ''} ${
    state ? STATES[state] : ''
  }`;
  const words = fitting(block.says, (right - left) * width);
  return (
    <li>
      {block.task ? (
        <button
          type="button"
          title={told}
          aria-label={told}
          aria-pressed={isChosen}
          style={{ ...place, transform: `translateX(${by}px)` }}
          className={`${look} ${isChosen ? 'ring-3 ring-focus' : ''} ${onDragged ? 'touch-none' : ''} ${by ? 'z-20' : ''}`}
          onClick={() => {
            if (!wasDragged.current) onChoose(block.task);
            wasDragged.current = false;
          }}
          onPointerDown={(event) => {
            if (!onDragged) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setFrom(event.clientX);
          }}
          onPointerMove={(event) => from !== null && setBy(event.clientX - from)}
          onPointerCancel={() => {
            setFrom(null);
            setBy(0);
          }}
          onPointerUp={(event) => {
            wasDragged.current = from !== null && Math.abs(by) > LEAST_DRAG_PX;
            if (wasDragged.current) onDragged?.(by / laneWidth(event.currentTarget));
            setFrom(null);
            setBy(0);
          }}
        >
          {words}
        </button>
      ) : (
        <span style={place} className={look} title={told}>
          <span className="sr-only">{told}</span>
          <span aria-hidden>{words}</span>
        </span>
      )}
    </li>
  );
}
