import { useCallback, useEffect, useRef, useState } from 'react';
import type { Reading } from '~/devices/reading';
import type { Scale } from '~/devices/use-scale';
import { stopBand } from '~/views/batch/fill/figure';
import { type Cell, isAt, type Place, placeOf, sameBox } from '~/views/batch/fill/sequence';
import { arriving, goingOn, type Seen, type Slip, watch } from '~/views/batch/fill/watch';

const EMPTIES_KEPT = 6;

export type Bench = {
  /** What went in of this part by the scale; null while it does not tell. */
  net: number | null;
  slip: Slip | null;
  isSteady: boolean;
  /** What the scale shows now is the container before this part. */
  tare: () => void;
  /** Go to another part, of the same container or of another. */
  move: (to: Place) => void;
};

/** The scale beside the part that is being filled: what went in, and what is wrong. */
export function useBench(
  scale: Scale,
  cell: Cell | null,
  target: number,
  step: number,
  isMinus: boolean,
  kinds: readonly Kind[],
): Bench {
  const seen = useRef<Seen>(arriving(null, performance.now()));
  const empties = useRef<number[]>([]);
  const at = useRef<Place | null>(null);
  const last = useRef<Reading | null>(null);
  const [shown, setShown] = useState<{ net: number | null; slip: Slip | null }>({ net: null, slip: null });
  const { reading } = scale;

  const read = useCallback(
    (now: Reading) => {
      if (!cell) return;
      const { low, high } = stopBand(cell.part, target, step);
      const about = { target, low, high, step, isMinus, empties: [...empties.current, ...emptiesOf(kinds)] };
      const found = watch(seen.current, now, about, performance.now());
      const isFirst = cell.box.parts[0]?.component_id === cell.part.component_id;
      // What stood there before the first part is an empty container, unless the scale has taken it off.
      if (seen.current.start === null && found.seen.start && found.seen.start > EMPTY_FROM && isFirst)
        empties.current = [found.seen.start, ...empties.current].slice(0, EMPTIES_KEPT);
      seen.current = found.seen;
      setShown({ net: found.net, slip: found.slip });
    },
    [cell, target, step, isMinus, kinds],
  );

  useEffect(() => {
    last.current = reading;
    if (reading) read(reading);
    else setShown({ net: null, slip: null });
  }, [reading, read]);

  const tare = useCallback(() => {
    const gross = last.current?.value ?? null;
    if (gross === null) return;
    seen.current = goingOn(gross, performance.now());
    if (last.current) read(last.current);
  }, [read]);

  const move = useCallback((to: Place) => {
    const gross = last.current?.value ?? null;
    const stays = at.current !== null && sameBox(at.current, to) && gross !== null;
    seen.current = stays ? goingOn(gross, performance.now()) : arriving(gross, performance.now());
    at.current = to;
    setShown({ net: null, slip: null });
  }, []);

  // The place is first known when the batch is.
  useEffect(() => {
    if (cell && (at.current === null || !isAt(cell, at.current))) move(placeOf(cell));
  }, [cell, move]);

  return { ...shown, isSteady: reading?.is_steady ?? false, tare, move };
}

const EMPTY_FROM = 20;

type Kind = { empty_g: number | null; lid_g: number | null };

/** What an empty container of the house weighs, with its lid and without. */
const emptiesOf = (kinds: readonly Kind[]) =>
  kinds.flatMap(({ empty_g, lid_g }) => [
    ...(empty_g === null ? [] : [empty_g]),
    ...(empty_g === null || lid_g === null ? [] : [empty_g + lid_g]),
  ]);
