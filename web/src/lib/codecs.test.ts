import { describe, expect, it } from 'vitest';
import * as z from 'zod';
import { key, needed, number, or, percent, read, weight, words } from '~/lib/codecs';

const form = z.object({
  key,
  grams: or(weight, 0),
  share: percent,
  band: needed(number, 'Give a number.', 0),
  parts: z.array(z.object({ key, pieces: number })),
});

const typed = {
  key: 'a',
  grams: '',
  share: '37.5',
  band: '3',
  parts: [
    { key: 'b', pieces: '12' },
    { key: 'c', pieces: '' },
  ],
};

describe('a form', () => {
  it('is read into what is sent, without its own keys', () => {
    const { body, faults } = read(form, typed);
    expect(faults.size).toBe(0);
    expect(JSON.parse(JSON.stringify(body))).toEqual({
      grams: 0,
      share: 0.375,
      band: 3,
      parts: [{ pieces: 12 }, { pieces: null }],
    });
  });

  it('says at each field what cannot be read, all at once', () => {
    const wrong = { ...typed, grams: 'much', band: '', parts: [{ key: 'b', pieces: 'few' }] };
    const { faults } = read(form, wrong);
    expect([...faults.keys()].sort()).toEqual(['/band', '/grams', '/parts/0/pieces']);
    expect(faults.get('/parts/0/pieces')).toContain('few');
    expect(faults.get('/band')).toBe('Give a number.');
  });

  it('is filled with what is stored', () => {
    const filled = form.encode({
      key: undefined,
      grams: 412.5,
      share: 0.125,
      band: 0,
      parts: [{ key: undefined, pieces: null }],
    });
    expect(filled).toMatchObject({ grams: '412.5', share: '12.5', band: '0', parts: [{ pieces: '' }] });
    expect(filled.key).not.toBe(filled.parts[0]?.key);
  });
});

it('words stand between commas', () => {
  expect(words.decode(' eggs, , pork ')).toEqual(['eggs', 'pork']);
  expect(words.encode(['eggs', 'pork'])).toBe('eggs, pork');
});
