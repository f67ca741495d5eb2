import { describe, expect, it } from 'vitest';
import type { Schemas } from '~/api/client';
import { howFar, untilWords } from '~/views/batch/cook/scale';

const sauce: Schemas['ScaleView'] = {
  task: 't',
  component: 'Tomato sauce',
  says: 'Simmer it.',
  net_g: 2400,
  vessel: '',
  vessel_g: null,
  left_g: null,
  is_there: false,
  per_min_g: null,
  about_min: null,
  readings: [],
};
const read = {
  ...sauce,
  vessel: 'the large pot',
  vessel_g: 780,
  left_g: 400,
  readings: [{ at_min: 600, grams: 3580, made_by: 'Ada' }],
};

describe('what the scale is to show', () => {
  it('is what is in the pan while nobody knows the pan', () =>
    expect(untilWords(sauce)).toBe('cook it until 2,400 g are in it, without the pan'));
  it('is pan and all once somebody does', () =>
    expect(untilWords(read)).toBe('cook it until the large pot and all show 3,180 g'));
  it('is reached from below by what takes up stock', () =>
    expect(untilWords({ ...read, left_g: -200 })).toContain('bring it up until'));
});

describe('how far it is', () => {
  it('asks to be weighed', () => expect(howFar(sauce, 600)).toContain('Weigh it with its pan'));
  it('tells what has to go, and asks again', () =>
    expect(howFar(read, 600)).toBe('10:00: 3,580 g, 400 g still to go. Weigh it again in a few minutes.'));
  it('tells about when', () =>
    expect(howFar({ ...read, per_min_g: 40, about_min: 610 }, 602)).toBe(
      '10:00: 3,580 g, 400 g still to go, about 10:10, in 8 min.',
    ));
  it('says what to do where it does not get less', () =>
    expect(howFar({ ...read, per_min_g: -2 }, 602)).toContain('lid off, more heat'));
  it('says what to do where too much has gone', () =>
    expect(howFar({ ...read, left_g: -150, per_min_g: 30 }, 602)).toContain('150 g too little: add water'));
  it('says when it is there', () =>
    expect(howFar({ ...read, is_there: true }, 602)).toBe('10:00: 3,580 g. It is there.'));
});
