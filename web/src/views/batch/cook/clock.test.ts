import { describe, expect, it } from 'vitest';
import { lengthWords, marks, readTime, timeOfDay, timeWords } from '~/views/batch/cook/clock';

describe('minutes of a cook day', () => {
  it('are read as times, on whichever day', () => {
    expect(timeOfDay(545)).toBe('09:05');
    expect(timeWords(-360)).toBe('18:00 the day before');
    expect(timeWords(1440)).toBe('00:00 the day after');
    expect(timeWords(-1441)).toBe('23:59 2 days before');
  });

  it('are lengths too', () => {
    expect(lengthWords(45)).toBe('45 min');
    expect(lengthWords(60)).toBe('1 h');
    expect(lengthWords(136)).toBe('2 h 16 min');
    expect(lengthWords(0)).toBe('0 min');
  });

  it('are read as they are typed', () => {
    expect(readTime('9')).toEqual({ minute: 540, fault: null });
    expect(readTime('9:30')).toEqual({ minute: 570, fault: null });
    expect(readTime('0930')).toEqual({ minute: 570, fault: null });
    expect(readTime('')).toEqual({ minute: null, fault: null });
    for (const wrong of ['25', '9:75', 'noon', '24:10'])
      expect(readTime(wrong).fault).toMatch(/Write a time/);
  });

  it('have marks that fit', () => {
    expect(marks(540, 676)).toEqual([540, 570, 600, 630, 660]);
    expect(marks(547, 600)).toEqual([555, 570, 585, 600]);
  });
});
