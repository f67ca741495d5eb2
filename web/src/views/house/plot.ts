import type { Schemas } from '~/api/client';

type Line = { name: string; points: [number, number][] };

/**
 * Prices of 100 g as points in a picture of `width` by `height`: a line for each shop and pack, the earliest on the left,
 * the dearest on top. Prices without a day are left out.
 */
export function linesOf(prices: Schemas['PriceView'][], width: number, height: number) {
  const seen = prices.flatMap((one) => (one.seen_on ? [{ ...one, at: Date.parse(one.seen_on) }] : []));
  const days = seen.map((one) => one.at);
  const values = seen.map((one) => one.per_100g);
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const across = (at: number) => (last === first ? width / 2 : (width * (at - first)) / (last - first));
  const up = (value: number) =>
    most === least ? height / 2 : height - (height * (value - least)) / (most - least);
  const lines = new Map<string, Line>();
  for (const one of seen) {
    const name = `${one.shop} ${one.pack} ${one.grams}`;
    const line = lines.get(name) ?? { name, points: [] };
    line.points.push([Math.round(across(one.at) * 10) / 10, Math.round(up(one.per_100g) * 10) / 10]);
    lines.set(name, line);
  }
  return { lines: [...lines.values()], least: seen.length ? least : 0, most: seen.length ? most : 0 };
}
