import { describe, expect, it } from 'vitest';
import { readWeightLine } from '~/devices/lines';
import recordedLines from '../../../tests/data/scale_lines.csv?raw';

const [head = '', ...rows] = recordedLines.trim().split('\n');
const cells = (row: string) =>
  [...row.matchAll(/("([^"]*)"|[^,]*)(,|$)/g)].map((found) => found[2] ?? found[1] ?? '');
const names = cells(head);
const recorded = rows.map((row) => {
  const values = cells(row);
  return Object.fromEntries(names.map((name, place) => [name, values[place] ?? '']));
});
const SAYS: Record<string, boolean | null> = { yes: true, no: false, '': null };

describe('recorded lines of scales', () => {
  it('are all there', () => expect(recorded.length).toBeGreaterThan(55));
  it.each(recorded)('“$line”: $note', ({ line, grams, state, steady, unit, net, battery_low }) => {
    const found = readWeightLine(line ?? '');
    expect(found.state).toBe(state);
    expect(found.battery_low).toBe(SAYS[battery_low ?? '']);
    if (!grams) return;
    expect(found.value).toBeCloseTo(Number(grams), 2);
    expect([found.is_steady, found.unit, found.is_net]).toEqual([SAYS[steady ?? ''], unit, SAYS[net ?? '']]);
  });
});
