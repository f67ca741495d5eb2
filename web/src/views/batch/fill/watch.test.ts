import { describe, expect, it } from 'vitest';
import type { Reading } from '~/devices/reading';
import { arriving, type Seen, type Slip, slipWords, watch } from '~/views/batch/fill/watch';

const show = (value: number | null, more: Partial<Reading> = {}): Reading => ({
  state: 'weight',
  value,
  is_steady: true,
  unit: 'g',
  battery_low: false,
  ...more,
});

const ABOUT = { target: 150, low: 145, high: 155, step: 1, isMinus: false, empties: [] as number[] };

/** Readings one after the other, a second apart: what the last of them means. */
function lastOf(readings: Reading[], about: Partial<typeof ABOUT> = {}, from: Seen = arriving(null, 0)) {
  let seen = from;
  let last: { net: number | null; slip: Slip | null } = { net: null, slip: null };
  readings.forEach((reading, second) => {
    const found = watch(seen, reading, { ...ABOUT, ...about }, 1000 * second);
    seen = found.seen;
    last = found;
  });
  return { ...last, seen, kind: last.slip?.kind ?? null };
}

describe('a container on the scale', () => {
  it('is waited for, and what goes in is counted from where it stood', () => {
    expect(lastOf([show(0)]).kind).toBe('put on');
    expect(lastOf([show(0), show(200, { is_steady: false }), show(312)])).toMatchObject({
      net: 0,
      kind: null,
    });
    expect(lastOf([show(0), show(312), show(430)])).toMatchObject({ net: 118, kind: null });
  });

  it('has to change before the next one is filled', () => {
    const next = arriving(462, 0);
    expect(lastOf([show(462)], {}, next).kind).toBe('put on');
    expect(lastOf([show(462), show(0), show(310)], {}, next)).toMatchObject({ net: 0, kind: null });
    expect(lastOf([show(462), show(0)], {}, next).kind).toBe('put on');
  });

  it('may be on a scale that was tared, which shows nothing for the next one', () => {
    const next = arriving(150, 0);
    expect(lastOf([show(150), show(-312)], {}, next).kind).toBe('put on');
    expect(lastOf([show(150), show(-312), show(1)], {}, next)).toMatchObject({ net: 0, kind: null });
  });

  it('is the bulk that gets less, in the way of the minus reading', () => {
    expect(lastOf([show(4000), show(3850)], { isMinus: true })).toMatchObject({ net: 150, kind: null });
  });

  it('is left alone while all is well, also with a low battery until it stands', () => {
    expect(lastOf([show(312), show(462)]).kind).toBe(null);
    expect(lastOf([show(312), show(400, { battery_low: true })]).kind).toBe('battery');
  });
});

describe('what goes wrong', () => {
  it('overload, pieces and lines that are none', () => {
    expect(lastOf([show(312), show(null, { state: 'overload' })]).kind).toBe('overload');
    expect(lastOf([show(312), show(null, { state: 'pieces' })]).kind).toBe('pieces');
    expect(lastOf([show(312), show(null, { state: 'unreadable' })])).toMatchObject({ net: null, kind: null });
  });

  it('a container that is lifted, put back, or another', () => {
    const filled = [show(312), show(400)];
    expect(lastOf([...filled, show(0)]).kind).toBe('lifted');
    expect(lastOf([...filled, show(0), show(401)]).kind).toBe(null);
    expect(lastOf([...filled, show(0), show(351)]).kind).toBe('another');
    expect(lastOf([...filled, show(0), show(180)]).kind).toBe('lifted');
  });

  it('a container that was not tared is recognised by what one weighs', () => {
    expect(
      lastOf([show(0), show(312)], { empties: [312] }, { ...arriving(null, 0), start: 0 }),
    ).toMatchObject({
      net: 312,
      slip: { kind: 'tare', empty: 312 },
    });
    expect(lastOf([show(462)], { empties: [312] }, { ...arriving(null, 0), start: 0 }).kind).toBe('tare');
    expect(lastOf([show(462)], { empties: [200] }, { ...arriving(null, 0), start: 0 }).kind).toBe(null);
  });

  it.each([
    ['ounces', 28.349523125],
    ['pounds', 453.59237],
    ['kilograms', 1000],
  ])('a scale that is set to %s and does not say so', (words, factor) => {
    const target = 300;
    const about = { target, low: 290, high: 310 };
    const found = lastOf([show(0, { unit: '' }), show(target / factor, { unit: '' })], about, {
      ...arriving(null, 0),
      start: 0,
    });
    expect(found.slip).toMatchObject({ kind: 'unit', words });
    // One that says its unit was read in it.
    expect(lastOf([show(0), show(target / factor)], about, { ...arriving(null, 0), start: 0 }).kind).toBe(
      null,
    );
  });

  it('a hand, and a scale that never stands still', () => {
    const moving = (value: number) => show(value, { is_steady: false });
    expect(lastOf([show(312), moving(1200)]).kind).toBe('leaning');
    expect(lastOf([show(312), moving(400)]).kind).toBe(null);
    expect(lastOf([show(312), ...Array.from({ length: 8 }, (_, n) => moving(400 + (n % 3)))]).kind).toBe(
      'restless',
    );
  });

  it('is said in words, each with what to do', () => {
    const slips: Slip[] = [
      { kind: 'put on' },
      { kind: 'overload' },
      { kind: 'lifted' },
      { kind: 'another', by: -40 },
      { kind: 'tare', empty: 312 },
      { kind: 'unit', words: 'ounces', factor: 28.35 },
      { kind: 'restless' },
      { kind: 'leaning' },
      { kind: 'pieces' },
      { kind: 'battery' },
    ];
    const words = slips.map((slip) => slipWords(slip, (grams) => `${grams} g`));
    expect(new Set(words).size).toBe(slips.length);
    for (const one of words) expect(one).toMatch(/^[A-Z0-9].*[.?]$/);
  });
});
