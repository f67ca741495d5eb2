import type { Line, State } from '~/devices/lines';

/** What a scale shows at one moment, in grams. */
export type Reading = {
  state: State;
  value: number | null;
  is_steady: boolean;
  unit: string;
  battery_low: boolean;
};

const STEADY_FOR_MS = 400;
const FEWEST = 3;

/** Notices what stands still, for scales that do not say so; `step` in grams. */
export function steadiness(step: number) {
  let recent: { at: number; value: number }[] = [];
  return (line: Line, at: number): Reading => {
    const { state, value, unit, battery_low } = line;
    if (value === null) {
      recent = [];
      return { state, value, is_steady: false, unit, battery_low };
    }
    recent.push({ at, value });
    while (recent.length > 1 && (recent[1]?.at ?? at) <= at - STEADY_FOR_MS) recent.shift();
    const values = recent.map((one) => one.value);
    const isStill =
      recent.length >= FEWEST &&
      at - (recent[0]?.at ?? at) >= STEADY_FOR_MS &&
      Math.max(...values) - Math.min(...values) <= step * 1.01;
    return { state, value, is_steady: line.is_steady ?? isStill, unit, battery_low };
  };
}
