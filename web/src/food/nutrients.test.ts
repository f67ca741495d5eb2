import { expect, it } from 'vitest';
import { keyed, LIMITED, MACRO_KEYS, MINOR, NUTRIENTS } from '~/food/nutrients';

it('every nutrient is a macro or minor, and stands once', () => {
  const keys = NUTRIENTS.map(({ key }) => key);
  expect(new Set(keys).size).toBe(keys.length);
  expect([...MACRO_KEYS, ...MINOR.map(({ key }) => key)].sort()).toEqual([...keys].sort());
});

it('a limit says its side in words', () => {
  for (const { limit } of LIMITED) expect(limit).toMatch(/, at (least|most)$/);
});

it('an object is made key by key', () => {
  expect(keyed(['a', 'b'], (key) => key.toUpperCase())).toEqual({ a: 'A', b: 'B' });
});
