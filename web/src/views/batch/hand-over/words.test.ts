import { expect, it } from 'vitest';
import {
  fitWords,
  type Placed,
  rowWords,
  shortDay,
  storeWords,
  type Week,
  weekState,
} from '~/views/batch/hand-over/words';

const ONE: Placed = {
  row_id: 'r',
  number: 2,
  of: 4,
  dish: 'Kofta tray',
  slot: 'lunch',
  day_type: 'any',
  eaten_on: '2026-12-01',
  store: 'fridge',
  thaw_on: null,
  use_by: '2026-12-02',
  by_hand: false,
  is_closed: false,
  litres: 1,
  kcal: 600,
  fridge_until: '2026-12-02',
  usual_until: '2026-12-03',
  freezes: 'yes',
  freezer_from: '2026-12-01',
  freezer_until: '2027-01-28',
  decided_by: 'Kofta',
  apart: [],
  beside: [],
  fresh: [],
  told: null,
  left: '',
  breaks: [],
};

const week = (days: Placed[], waiting: Placed[] = []): Week =>
  ({
    waiting,
    unread: 0,
    days: days.map((one) => ({ on: one.eaten_on, containers: [one], breaks: [] })),
  }) as unknown as Week;

it('says where a container waits, and until when', () => {
  expect(storeWords(ONE)).toBe('Fridge, until Wed\u00a02');
  expect(storeWords({ ...ONE, use_by: null })).toBe('Fridge');
  expect(storeWords({ ...ONE, store: 'freezer', thaw_on: '2026-11-30' })).toBe(
    'Freezer, thaw Mon\u00a030 evening',
  );
  expect(storeWords({ ...ONE, store: null })).toBe('');
  expect(shortDay('2026-12-24')).toBe('Thu\u00a024');
});

it('says what another day would mean', () => {
  expect(fitWords(ONE, '2026-12-02')).toBe('out of the fridge');
  expect(fitWords(ONE, '2026-12-03')).toBe('out of the freezer');
  expect(fitWords({ ...ONE, freezes: 'with care' }, '2026-12-03')).toBe('out of the freezer, with care');
  expect(fitWords({ ...ONE, freezes: 'no' }, '2026-12-03')).toBe('past the cautious day');
  expect(fitWords({ ...ONE, freezes: 'no' }, '2026-12-04')).toBe('past its days');
  expect(fitWords(ONE, '2027-02-01')).toBe('past its days');
  expect(fitWords({ ...ONE, fridge_until: null }, '2027-02-01')).toBe('out of the fridge');
});

it('tells a client’s week in a line', () => {
  expect(weekState(week([], [ONE]))).toEqual({ words: 'no days yet', toLook: 1 });
  expect(weekState(week([ONE]))).toEqual({ words: 'has its day', toLook: 0 });
  const broken = { ...ONE, breaks: [{ words: 'late', is_unsafe: true }] };
  expect(weekState({ ...week([ONE]), unread: 1 })).toEqual({ words: '1 new word', toLook: 1 });
  expect(weekState(week([ONE, broken], [ONE, ONE]))).toEqual({
    words: '2 without a day, 1 to look at',
    toLook: 3,
  });
});

it('tells a row of the table, one in the singular', () => {
  const row = {
    category: 'cooked rice',
    cautious_days: 1,
    usual_days: 3,
    freezer_months: 1,
    freezes: 'yes' as const,
    cool_note: '',
    reheat_c: 74,
    note: '',
  };
  expect(rowWords(row)).toBe('1, customary 3 days in the fridge, freezes, 1 month');
  expect(rowWords({ ...row, usual_days: 1, freezes: 'no', freezer_months: 0 })).toBe(
    '1 day in the fridge, does not freeze',
  );
});
