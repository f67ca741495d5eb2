import type { Reading } from '~/devices/reading';

/** What is wrong at the scale, as far as its readings tell. */
export type Slip =
  | { kind: 'put on' }
  | { kind: 'overload' }
  | { kind: 'lifted' }
  | { kind: 'another'; by: number }
  | { kind: 'tare'; empty: number }
  | { kind: 'unit'; words: string; factor: number }
  | { kind: 'restless' }
  | { kind: 'leaning' }
  | { kind: 'pieces' }
  | { kind: 'battery' };

/** What one part of one container has shown so far; all in grams. */
export type Seen = {
  /** What the scale showed before anything of this part went in; null while the container is not on it. */
  start: number | null;
  /** The last weight that stood still. */
  settled: number | null;
  /** What stood there before the container was changed: it has to change first. */
  before: number | null;
  /** The scale has shown less than nothing: it was tared, and its pan is bare. */
  dipped: boolean;
  wasLifted: boolean;
  /** What stood there before the container was lifted. */
  kept: number | null;
  /** When it last stood still, or began. */
  quietAt: number;
};

export const arriving = (before: number | null, at: number): Seen => ({
  start: null,
  settled: null,
  before,
  dipped: false,
  wasLifted: false,
  kept: null,
  quietAt: at,
});
/** The next part of the container that is on the scale. */
export const goingOn = (gross: number, at: number): Seen => ({
  start: gross,
  settled: gross,
  before: null,
  dipped: false,
  wasLifted: false,
  kept: null,
  quietAt: at,
});

type About = {
  target: number;
  low: number;
  high: number;
  step: number;
  /** The bulk is on the scale and gets less. */
  isMinus: boolean;
  /** Empty weights of containers that were on this scale, or that the house has. */
  empties: number[];
};

export type Watched = { seen: Seen; net: number | null; slip: Slip | null };

const RESTLESS_MS = 6000;
const OUNCE = 28.349523125;
const FACTORS = [
  { factor: OUNCE, words: 'ounces' },
  { factor: 453.59237, words: 'pounds' },
  { factor: 1000, words: 'kilograms' },
];

/** What a reading means for the part that is being filled. */
export function watch(seen: Seen, reading: Reading, about: About, at: number): Watched {
  if (reading.state === 'overload') return { seen, net: null, slip: { kind: 'overload' } };
  if (reading.state === 'pieces') return { seen, net: null, slip: { kind: 'pieces' } };
  if (reading.value === null) return { seen, net: null, slip: null };
  const gross = reading.value;
  const now: Seen = reading.is_steady ? { ...seen, settled: gross, quietAt: at } : seen;
  const small = Math.max(4 * about.step, 4);
  if (now.start === null) return placed(now, gross, reading.is_steady, small);
  const net = about.isMinus ? now.start - gross : gross - now.start;
  const slip = slipOf({ ...now, start: now.start }, reading, net, about, at, small);
  // Put back as it was, nothing has happened.
  const isBack =
    reading.is_steady && seen.settled !== null && Math.abs(gross - (seen.kept ?? seen.settled)) < small;
  const wasLifted = slip?.kind === 'lifted' || (now.wasLifted && !isBack);
  const kept = slip?.kind === 'lifted' ? (seen.kept ?? seen.settled) : wasLifted ? seen.kept : null;
  return { seen: { ...now, wasLifted, kept }, net, slip: isBack && slip?.kind === 'another' ? null : slip };
}

/** Nothing of this part is in yet: the container is put on, and where it stands still filling begins. */
function placed(seen: Seen, gross: number, isSteady: boolean, small: number): Watched {
  // A tared scale shows less than nothing for its bare pan, and nothing for a container like the one before.
  const dipped = seen.dipped || gross < -small;
  const isEmpty = Math.abs(gross) < small && !dipped;
  const isUnchanged = seen.before !== null && Math.abs(gross - seen.before) < small;
  if (!isSteady || isEmpty || isUnchanged || gross < -small)
    return { seen: { ...seen, dipped }, net: null, slip: { kind: 'put on' } };
  return { seen: { ...seen, start: gross, before: null, dipped }, net: 0, slip: null };
}

function slipOf(
  seen: Seen & { start: number },
  reading: Reading,
  net: number,
  about: About,
  at: number,
  small: number,
): Slip | null {
  if (!reading.is_steady) {
    if (net > 1.5 * about.target + 200) return { kind: 'leaning' };
    return at - seen.quietAt > RESTLESS_MS ? { kind: 'restless' } : null;
  }
  const isDone = net >= about.low && net <= about.high;
  if (isDone) return null;
  if (net < -small) return { kind: 'lifted' };
  if (seen.wasLifted && Math.abs(net) > small) return { kind: 'another', by: net };
  const empty = about.empties.find(
    (one) => near(net, one, 0.03) || (net - one >= about.low && net - one <= about.high),
  );
  if (empty !== undefined) return { kind: 'tare', empty };
  if (!reading.unit && net > 0) {
    for (const { factor, words } of FACTORS) {
      if (near(net * factor, about.target, 0.08)) return { kind: 'unit', words, factor };
      if (near(net / factor, about.target, 0.08)) return { kind: 'unit', words: 'grams', factor: 1 / factor };
    }
  }
  return reading.battery_low ? { kind: 'battery' } : null;
}

const near = (one: number, other: number, share: number) =>
  Math.abs(one - other) <= Math.max(share * other, 4);

/** What to do about it. */
export function slipWords(slip: Slip, weight: (grams: number) => string): string {
  switch (slip.kind) {
    case 'put on':
      return 'Put the container on the scale. Already on it? Press Tare.';
    case 'overload':
      return 'Too heavy for this scale. Take something off, or weigh it in two.';
    case 'lifted':
      return 'The container was lifted off. Put it back, or press Tare for another one.';
    case 'another':
      return `Is this the same container? It weighs ${weight(Math.abs(slip.by))} ${slip.by < 0 ? 'less' : 'more'} than what was lifted. Press Tare if it is another.`;
    case 'tare':
      return `${weight(slip.empty)} is what an empty container weighs: was it tared?`;
    case 'unit':
      return `This looks like ${slip.words}. Set the scale to grams.`;
    case 'restless':
      return 'The scale does not stand still. A draught, or something touches it? Accept it as it is, or type the weight.';
    case 'leaning':
      return 'A hand on the scale? It counts when it stands still.';
    case 'pieces':
      return 'The scale counts pieces. Set it to grams.';
    case 'battery':
      return 'The battery of the scale is low.';
  }
}
