import { expect, it } from 'vitest';
import { countdown } from '~/views/batch/cook/timers';

it('tells what is left, and what is over', () => {
  expect(countdown(220)).toBe('3:40');
  expect(countdown(0)).toBe('0:00');
  expect(countdown(-20)).toBe('−0:20');
  expect(countdown(3730)).toBe('1:02:10');
  expect(countdown(59.9)).toBe('0:59');
});
