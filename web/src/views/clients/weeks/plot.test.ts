import { expect, it } from 'vitest';
import { barsOf, type EatenDay, nearness } from '~/views/clients/weeks/plot';

const macros = (kcal: number) => ({ kcal, protein_g: 0, carbohydrate_g: 0, fat_g: 0 });
const day = (on: string, filled: number, eaten: number | null, target: number | null): EatenDay => ({
  on,
  day_type: '',
  containers: 1,
  told: eaten === null ? 'none' : 'all',
  planned: macros(filled),
  filled: macros(filled),
  eaten: eaten === null ? null : macros(eaten),
  target: target === null ? null : macros(target),
  beside: macros(100),
});
const size = { width: 100, height: 50 };

it('stands each day over its date, with what is eaten beside', () => {
  const days = [day('2026-11-02', 900, 400, 1000), day('2026-11-10', 400, null, null)];
  const { bars, most } = barsOf(days, 'kcal', '2026-11-01', '2026-11-10', size);
  expect(most).toBe(1000);
  expect(bars.map((one) => one.x)).toEqual([11.5, 91.5]);
  expect(bars.map((one) => [one.filled, one.eaten, one.target])).toEqual([
    [50, 25, 50],
    [25, null, null],
  ]);
});

it('says how near a day was met, where all of it was told and it has a target', () => {
  const { bars } = barsOf(
    [
      day('2026-11-02', 900, 850, 1000),
      day('2026-11-03', 900, null, 1000),
      day('2026-11-04', 900, 850, null),
    ],
    'kcal',
    '2026-11-01',
    '2026-11-10',
    size,
  );
  expect(bars.map((one) => nearness(one.values))).toEqual([95, null, null]);
});

it('draws nothing of no days', () => {
  expect(barsOf([], 'fat_g', '2026-11-01', '2026-11-10', size)).toEqual({ bars: [], most: 1 });
});
