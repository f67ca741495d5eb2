import type { BoxPart } from '~/views/batch/fill/sequence';

/** How far a part is from what it should hold. */
export type Figure = {
  /** Grams still to go in; below nothing where there is too much. */
  still: number;
  state: 'under' | 'inside' | 'over';
  /** Between which grams filling may stop. */
  low: number;
  high: number;
};

/**
 * The stop band of a part for a target: never narrower than half a step of the scale on either side. Nothing is never
 * enough of something, however wide the band.
 */
export function stopBand(part: BoxPart, target: number, step: number): { low: number; high: number } {
  const moved = target - part.grams;
  return {
    low: Math.max(Math.min(part.stop_low_g + moved, target - step / 2), target < step ? 0 : step / 2),
    high: Math.max(part.stop_high_g + moved, target + step / 2),
  };
}

export function figureOf(part: BoxPart, target: number, net: number, step: number): Figure {
  const { low, high } = stopBand(part, target, step);
  const state = net < low ? 'under' : net > high ? 'over' : 'inside';
  return { still: target - net, state, low, high };
}
