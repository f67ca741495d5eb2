import { expect, it } from 'vitest';
import { fitting } from '~/views/batch/cook/lanes';

it('shortens words to the room there is', () => {
  expect(fitting('Kofta', 200)).toBe('Kofta');
  expect(fitting('Turkey kofta 1/2', 80)).toBe('Turkey…');
  expect(fitting('Turkey kofta', 20)).toBe('');
});
