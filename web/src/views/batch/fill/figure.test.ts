import { describe, expect, it } from 'vitest';
import { figureOf } from '~/views/batch/fill/figure';
import type { BoxPart } from '~/views/batch/fill/sequence';

const part = (grams: number, low: number, high: number) =>
  ({ grams, stop_low_g: low, stop_high_g: high }) as BoxPart;

describe('the figure', () => {
  it('is how many grams still, and on which side of the band', () => {
    expect(figureOf(part(110, 94, 129), 110, 60, 1)).toEqual({
      still: 50,
      state: 'under',
      low: 94,
      high: 129,
    });
    expect(figureOf(part(110, 94, 129), 110, 94, 1).state).toBe('inside');
    expect(figureOf(part(110, 94, 129), 110, 130, 1)).toMatchObject({ still: -20, state: 'over' });
  });

  it('has a band as wide as the scale can tell', () => {
    expect(figureOf(part(20, 20, 20), 20, 19.6, 1)).toMatchObject({ low: 19.5, high: 20.5, state: 'inside' });
  });

  it('moves its band with what is asked for', () => {
    expect(figureOf(part(110, 94, 129), 90, 90, 1)).toMatchObject({ low: 74, high: 109 });
  });

  it('takes nothing for enough of something, however wide the band', () => {
    expect(figureOf(part(15, 0, 28), 15, 0, 1).state).toBe('under');
    expect(figureOf(part(15, 0, 28), 15, 1, 1).state).toBe('inside');
    expect(figureOf(part(0, 0, 1), 0, 0, 1).state).toBe('inside');
  });
});
