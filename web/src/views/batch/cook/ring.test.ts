import { expect, it } from 'vitest';
import { loudness } from '~/views/batch/cook/ring';

it('rings louder until somebody hears it, and no louder than it can', () => {
  expect(loudness(0)).toBeCloseTo(0.15);
  expect(loudness(30)).toBeCloseTo(0.525);
  expect(loudness(60)).toBeCloseTo(0.9);
  expect(loudness(600)).toBeCloseTo(0.9);
});
