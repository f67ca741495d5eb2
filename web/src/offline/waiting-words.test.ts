import { describe, expect, it } from 'vitest';
import { waitingWords } from '~/offline/waiting-words';

const fills = (count: number) => Array.from({ length: count }, () => ({ noun: 'fill' }));

describe('what waits, counted by what it is', () => {
  it('is one of its kind, or several', () => {
    expect(waitingWords(fills(1))).toBe('1 fill waits to be handed in');
    expect(waitingWords(fills(12))).toBe('12 fills wait to be handed in');
    expect(waitingWords([{}])).toBe('1 change waits to be handed in');
  });

  it('is of several kinds', () => {
    expect(waitingWords([{ noun: 'weight' }, ...fills(2)])).toBe('1 weight and 2 fills wait to be handed in');
    expect(waitingWords([...fills(1), {}, { noun: 'note' }])).toBe(
      '1 fill, 1 change and 1 note wait to be handed in',
    );
  });
});
