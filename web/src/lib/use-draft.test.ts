import { expect, test } from 'vitest';
import { completed } from '~/lib/use-draft';

test('what an older version kept gets the fields it did not know', () => {
  expect(completed({ name: 'typed' } as object, { name: '', dishes: [] })).toEqual({
    name: 'typed',
    dishes: [],
  });
});

test('what was typed stays as it is', () => {
  expect(completed('12', '')).toBe('12');
  expect(completed([1], [1, 2])).toEqual([1]);
  expect(completed({ name: '' }, { name: 'proposed' })).toEqual({ name: '' });
});
