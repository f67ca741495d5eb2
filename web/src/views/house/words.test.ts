import { describe, expect, it } from 'vitest';
import { keepsWords, lotWords } from '~/views/house/words';

describe('a lot in words', () => {
  it('tells whole packs and what is left of the one begun', () => {
    expect(lotWords({ grams: 480, pack_g: 240 })).toBe('2 × 240 g');
    expect(lotWords({ grams: 340, pack_g: 240 })).toBe('1 × 240 g and 100 g');
    expect(lotWords({ grams: 100, pack_g: 240 })).toBe('100 g');
    expect(lotWords({ grams: 750, pack_g: null })).toBe('750 g');
  });

  it('tells how near its day is', () => {
    expect(keepsWords({ use_by: null, days_left: null })).toBe('no day written down');
    expect(keepsWords({ use_by: '2026-11-26', days_left: -1 })).toBe('past its day, Thu 26 November');
    expect(keepsWords({ use_by: '2026-11-27', days_left: 0 })).toBe('today, Fri 27 November');
    expect(keepsWords({ use_by: '2026-11-28', days_left: 1 })).toBe('1 day, Sat 28 November');
    expect(keepsWords({ use_by: '2026-12-20', days_left: 23 })).toBe('Sun 20 December');
    expect(keepsWords({ use_by: '2027-09-23', days_left: 300 })).toBe('23 September 2027');
  });
});
