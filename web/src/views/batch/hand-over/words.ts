import type { Schemas } from '~/api/client';
import { day, plural } from '~/lib/format';

export type Placed = Schemas['PlacedView'];
export type Week = Schemas['ClientWeekView'];
export type Row = Schemas['ShelfRowView'];

const NAMES = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
export const WEEKDAYS: readonly string[] = NAMES;

/** What a container is called in its client's week: "Kofta tray, 2 of 4". */
export const containerName = (one: Placed) =>
  one.of === 1 ? one.dish : `${one.dish}, ${one.number} of ${one.of}`;

/** Where a container waits, and until when it may. */
export function storeWords(one: Placed): string {
  if (one.store === null) return '';
  if (one.store === 'freezer')
    return one.thaw_on ? `Freezer, thaw ${shortDay(one.thaw_on)} evening` : 'Freezer';
  return one.use_by ? `Fridge, until ${shortDay(one.use_by)}` : 'Fridge';
}

/** "Wed 2" – what stands at the head of a narrow column. */
export function shortDay(iso: string): string {
  const [weekday, number] = day(iso).split(' ');
  return `${weekday?.replace(',', '')}\u00a0${number}`;
}

/** What it would mean for a container to be eaten on a day, as far as that is known without trying. */
export function fitWords(one: Placed, on: string): string {
  if (one.fridge_until === null || on <= one.fridge_until) return 'out of the fridge';
  const thawed =
    one.freezes !== 'no' && on >= one.freezer_from && (!one.freezer_until || on <= one.freezer_until);
  if (thawed) return one.freezes === 'yes' ? 'out of the freezer' : 'out of the freezer, with care';
  if (one.usual_until !== null && on <= one.usual_until) return 'past the cautious day';
  return 'past its days';
}

/** What to look at of a client before their containers go. */
export function weekState(week: Week): { words: string; toLook: number } {
  const placed = week.days.reduce((sum, one) => sum + one.containers.length, 0);
  const all = placed + week.waiting.length;
  const broken = week.days.reduce(
    (sum, one) => sum + one.breaks.length + one.containers.filter((box) => box.breaks.length).length,
    0,
  );
  if (placed === 0) return { words: 'no days yet', toLook: all };
  const lacking = week.waiting.length ? `${week.waiting.length} without a day` : '';
  const look = broken ? `${broken} to look at` : '';
  const said = week.unread ? plural(week.unread, 'new word') : '';
  return {
    words:
      [said, lacking, look].filter(Boolean).join(', ') ||
      (all === 1 ? 'has its day' : `all ${all} have a day`),
    toLook: week.waiting.length + broken + week.unread,
  };
}

/** Days in the fridge and what the freezer does, by one row. */
export function rowWords(row: Row): string {
  const days =
    row.cautious_days === row.usual_days
      ? plural(row.cautious_days, 'day')
      : `${row.cautious_days}, customary ${plural(row.usual_days, 'day')}`;
  const freezer =
    row.freezes === 'no'
      ? 'does not freeze'
      : `${row.freezes === 'yes' ? 'freezes' : 'freezes with care'}, ${plural(row.freezer_months, 'month')}`;
  return `${days} in the fridge, ${freezer}`;
}

/** A note with a capital at its start. */
export const sentence = (note: string) => note.charAt(0).toUpperCase() + note.slice(1);
