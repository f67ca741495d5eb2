import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import type { Scale } from '~/devices/use-scale';
import { weight } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { massInGrams, massUnit } from '~/lib/units';
import { useStored } from '~/lib/use-stored';
import { figureOf } from '~/views/batch/fill/figure';
import type { FillOptions } from '~/views/batch/fill/options';
import { triedQuery } from '~/views/batch/fill/queries';
import { lineAt } from '~/views/batch/fill/raw';
import { allowTones, say, tone } from '~/views/batch/fill/say';
import {
  type Cell,
  type Filling,
  isAt,
  isToCome,
  nextToCome,
  type Place,
  placeOf,
} from '~/views/batch/fill/sequence';
import { useBench } from '~/views/batch/fill/use-bench';
import type { Fact, useFills } from '~/views/batch/fill/use-fills';
import {
  canMeasure,
  countStep,
  isCounted,
  nearestCount,
  oneOf,
  usualWay,
  type Way,
} from '~/views/batch/fill/ways';
import { containersQuery, type Kind } from '~/views/containers/queries';

const GOES_ON_AFTER_MS = 1000;
const NO_KINDS: Kind[] = [];

type Given = {
  batchId: string;
  filling: Filling;
  fills: ReturnType<typeof useFills>;
  options: FillOptions;
  scale: Scale;
  cells: Cell[];
  cell: Cell;
  go: (to: Cell) => void;
  /** Something went into this container. */
  onFilled: (box: Cell['box']) => void;
};

/** The part that is filled now: how it is measured, what is in by now, and what can be done with it. */
export function usePart({ batchId, filling, fills, options, scale, cells, cell, go, onFilled }: Given) {
  const { box, part } = cell;
  const place = placeOf(cell);
  const placeKey = keyOf(place);
  const [typed, setTyped] = useState('');
  const [count, setCount] = useState<number | null>(null);
  const [asked, setAsked] = useState(false);
  /** What a part that is in already is brought to: something is taken out of it, or put on top. */
  const [to, setTo] = useState<{ key: string; grams: number } | null>(null);
  const [reason, setReason] = useState('');
  const [isReasonAsked, setIsReasonAsked] = useState(false);
  const since = useRef(performance.now());
  const [chosenWay, setWay] = useStored<Way | ''>(`yantai/fill/way/${batchId}/${part.component_id}`, '');
  const scoopG = filling.pots.find((pot) => pot.component_id === part.component_id)?.scoop_g ?? null;
  const can = (way: Way) => canMeasure(way, part, scoopG);
  const way = chosenWay && can(chosenWay) ? chosenWay : usualWay(part);
  const step = scale.instrument?.step_g ?? filling.step_g;
  const one = isCounted(way) ? oneOf(way, part, scoopG) : null;
  const isCorrecting = to?.key === placeKey;
  const inAlready = part.filled?.grams ?? 0;
  const target = isCorrecting ? to.grams : part.filled ? part.filled.grams : part.grams;
  const usualCount = one === null ? 0 : nearestCount(way, part, target / one);
  const isByHand = one !== null || way === 'by eye' || way === 'typed';
  const kinds = useQuery(containersQuery);
  const bench = useBench(
    scale,
    isByHand ? null : cell,
    Math.abs(target - inAlready),
    step,
    way === 'minus reading',
    kinds.data ?? NO_KINDS,
  );
  const typedGrams = readNumber(typed);
  const isLive = scale.instrument !== undefined && !scale.isLost && !isByHand;

  // A new place begins anew.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the place is what counts
  useEffect(() => {
    setTyped('');
    setCount(null);
    setAsked(false);
    setReason('');
    setIsReasonAsked(false);
    since.current = performance.now();
    if (options.speech === 'on' && isToCome(cell))
      say(`${part.name}, ${Math.round(part.grams)} ${massUnit() === 'g' ? 'grams' : massUnit()}`);
  }, [placeKey]);

  // Making good has left nothing of it: then nothing has to be measured.
  const isNothing = !part.filled && target < step / 2;
  // What is typed in the way of the running total is what the scale shows by then, else what the part holds in all.
  const before = runningBefore(cell);
  const holds =
    typedGrams.value !== null
      ? massInGrams(typedGrams.value) - (way === 'running total' ? before : 0)
      : part.filled && !isCorrecting
        ? null
        : one !== null
          ? (count ?? usualCount) * one
          : way === 'by eye'
            ? target
            : isLive && bench.net !== null
              ? inAlready + bench.net
              : isNothing
                ? 0
                : null;
  const total = holds === null ? null : Math.max(holds, 0);
  const figure = figureOf(part, target, total ?? inAlready, step);
  const isOutside = total !== null && figure.state !== 'inside';
  const steadyOutside = isOutside && (bench.isSteady || typedGrams.value !== null || isByHand);
  const tried = useQuery(
    triedQuery(batchId, asked && steadyOutside ? place : null, asked ? total : null, filling.facts),
  );
  // What is built raw is built ingredient by ingredient: the figure is of the one that goes in next.
  const line = part.filled || isByHand || part.lines.length < 2 ? null : lineAt(part.lines, total ?? 0, step);

  const onward = () => {
    const next = nextToCome(cells, place);
    if (next) {
      bench.move(placeOf(next));
      go(next);
    } else {
      setTyped('');
      setCount(null);
      setAsked(false);
      if (options.speech === 'on') say('All containers are closed');
    }
  };
  const keeping = useRef<Promise<void>>(null);
  /** Note what became of this part: the screen goes on once the browser has it, so nothing it has taken is lost. */
  const take = (fact: Pick<Fact, 'event'> & Partial<Fact>, said: string) => {
    const about = { row_id: box.row_id, container: box.number, component_id: part.component_id };
    const kept = fills.note(
      { ...about, asked_g: target, ...fact },
      `${part.name}, ${box.client} ${box.number} of ${box.of}: ${said}`,
    );
    keeping.current = kept.then(() => {
      keeping.current = null;
      flushSync(() => {
        setTo(null);
        onFilled(box);
        if (isAt(latest.current.cell, place)) latest.current.onward();
      });
    });
  };
  const accept = (grams: number, by: Way) => {
    allowTones();
    take(
      {
        event: box.is_closed ? 'corrected' : 'filled',
        grams: Math.round(grams * 10) / 10,
        way: by,
        after: part.filled?.fact_id ?? null,
        units: one !== null && count !== null ? count : null,
        took_s: Math.round((performance.now() - since.current) / 100) / 10,
        text: reason,
      },
      weight(grams),
    );
  };
  const lacksReason = box.is_closed && !reason.trim();
  const next = () => {
    // Nothing is said of what it should be instead: it stays as it is.
    if (part.filled && total === null && !typedGrams.fault) {
      setTo(null);
      onward();
      return;
    }
    if (total === null) return;
    if (lacksReason) {
      setIsReasonAsked(true);
      return;
    }
    if (isOutside && !asked) {
      setAsked(true);
      if (options.sound === 'on') tone('over');
      return;
    }
    if (options.sound === 'on') tone('done');
    accept(total, typedGrams.value !== null && way !== 'running total' ? 'typed' : way);
  };
  const byEye = () => {
    if (!part.filled) accept(part.grams, 'by eye');
  };
  const leaveOut = () => {
    if (!part.filled) take({ event: 'left out' }, 'left out');
  };
  const latest = useRef({ cell, onward, next, byEye, leaveOut });
  latest.current = { cell, onward, next, byEye, leaveOut };
  /** What is pressed while the browser keeps the last part is meant for the one that comes then. */
  const press = (act: 'next' | 'byEye' | 'leaveOut') => {
    if (keeping.current) void keeping.current.then(() => press(act));
    else latest.current[act]();
  };

  // Inside the band and standing still for a second: it goes on by itself, where that is set.
  const isDone = isLive && figure.state === 'inside' && bench.isSteady && total !== null && !part.filled;
  useEffect(() => {
    if (!isDone || options.auto === 'off') return;
    const going = setTimeout(() => {
      if (!keeping.current) latest.current.next();
    }, GOES_ON_AFTER_MS);
    return () => clearTimeout(going);
  }, [isDone, options.auto]);
  const wasDone = useRef(false);
  useEffect(() => {
    if (isDone && !wasDone.current && options.sound === 'on') tone('done');
    wasDone.current = isDone;
  }, [isDone, options.sound]);

  return {
    cell,
    place,
    bench,
    step,
    way,
    setWay,
    can,
    /** Grams of one, and how many, where it is counted. */
    one,
    count: count ?? usualCount,
    moreBy: (steps: number) => setCount(Math.max((count ?? usualCount) + steps * countStep(way, part), 0)),
    isByHand,
    isLive,
    inAlready,
    /** What it should hold, and what it holds with what is on the scale, or typed, now. */
    target,
    total,
    figure,
    isOutside,
    isNothing,
    line,
    /** Grams still to go in, of the part or of the ingredient that is next. */
    still: line ? line.up_to_g - (total ?? 0) : total === null ? target - inAlready : figure.still,
    /** What the scale shows before it and when it is done, where nobody tares in between. */
    before,
    typed: {
      text: typed,
      fault: typedGrams.fault,
      /** Into what is in already, somebody types to correct it; who takes it all out again does not. */
      set: (text: string) => {
        if (text === '' && to?.grams === inAlready) setTo(null);
        else if (part.filled && !isCorrecting) setTo({ key: placeKey, grams: inAlready });
        setTyped(text);
        setAsked(false);
      },
    },
    /** Whether it was asked if what lies outside the band is right, and what would become of it. */
    asked,
    tried: tried.data,
    isCorrecting,
    correct: (at: Place, grams: number) => setTo({ key: keyOf(at), grams }),
    reason: { text: reason, set: setReason, isLacking: isReasonAsked && lacksReason },
    next: () => press('next'),
    byEye: () => press('byEye'),
    leaveOut: () => press('leaveOut'),
    undo: () => {
      if (fills.last) fills.takeBack(fills.last);
    },
  };
}

export type AtPart = ReturnType<typeof usePart>;

const keyOf = (place: Place) => `${place.row} ${place.number} ${place.part}`;

/** What the container holds before this part, where nobody tares in between. */
function runningBefore({ box, part }: Cell): number {
  const at = box.parts.indexOf(part);
  return box.parts
    .slice(0, at)
    .filter((one) => one.place === part.place)
    .reduce((sum, one) => sum + (one.filled?.grams ?? one.grams), 0);
}
