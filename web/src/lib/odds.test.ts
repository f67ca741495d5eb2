import { describe, expect, it } from 'vitest';
import { oddsWords } from '~/lib/odds';

describe('a probability in words', () => {
  it('is told in tens, twenties or hundreds', () => {
    expect([0.001, 0.5, 0.9, 0.95, 0.87, 0.874, 0.99, 0.996, 1].map(oddsWords)).toEqual([
      'hardly ever',
      '5 times in 10',
      '9 times in 10',
      '19 times in 20',
      '87 times in 100',
      '87 times in 100',
      '99 times in 100',
      'nearly always',
      'nearly always',
    ]);
  });
});
