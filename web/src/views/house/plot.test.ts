import { describe, expect, it } from 'vitest';
import { linesOf } from '~/views/house/plot';

const seen = (seen_on: string | null, per_100g: number, shop = 'Quay') => ({
  seen_on,
  noted_at: '2026-11-27T09:00:00Z',
  shop,
  pack: 'tray',
  grams: 400,
  price: per_100g * 4,
  per_100g,
});

describe('prices over time', () => {
  it('draws a line for each shop, the dearest on top', () => {
    const { lines, least, most } = linesOf(
      [seen('2026-11-01', 1), seen('2026-11-11', 3), seen('2026-11-21', 2), seen('2026-11-11', 2, 'Harbour')],
      100,
      40,
    );
    expect([least, most]).toEqual([1, 3]);
    expect(lines.map((line) => line.points)).toEqual([
      [
        [0, 40],
        [50, 0],
        [100, 20],
      ],
      [[50, 20]],
    ]);
  });

  it('leaves out what has no day, and stands in the middle where nothing moves', () => {
    expect(linesOf([seen(null, 1)], 100, 40).lines).toEqual([]);
    expect(linesOf([seen('2026-11-01', 1)], 100, 40).lines[0]?.points).toEqual([[50, 20]]);
  });
});
