/** Minutes of a cook day as one reads them. They count from midnight of the day; negative ones lie before it. */

const DAY_MIN = 24 * 60;
const two = (value: number) => String(value).padStart(2, '0');

/** The time of day, whichever day it is: "09:05". */
export function timeOfDay(minute: number): string {
  const within = ((minute % DAY_MIN) + DAY_MIN) % DAY_MIN;
  return `${two(Math.floor(within / 60))}:${two(within % 60)}`;
}

/** Which day a minute lies on, from the cook day: 0 is the day itself, −1 the one before. */
export const dayOf = (minute: number) => Math.floor(minute / DAY_MIN);

/** "the day before" and so on; nothing on the day itself. */
function dayWords(minute: number): string {
  const days = dayOf(minute);
  if (days === 0) return '';
  if (days === -1) return 'the day before';
  if (days === 1) return 'the day after';
  return days < 0 ? `${-days} days before` : `${days} days after`;
}

/** "09:05", "18:00 the day before". */
export const timeWords = (minute: number) => [timeOfDay(minute), dayWords(minute)].filter(Boolean).join(' ');

/** "1 h 5 min", "45 min". */
export function lengthWords(minutes: number): string {
  const hours = Math.floor(minutes / 60);
  const rest = minutes % 60;
  return [hours ? `${hours} h` : '', rest || !hours ? `${rest} min` : ''].filter(Boolean).join(' ');
}

/** A time as it is typed: "9", "9:30", "0930"; what cannot be one is told. */
export function readTime(text: string): { minute: number | null; fault: string | null } {
  const clean = text.trim();
  if (!clean) return { minute: null, fault: null };
  const [, hours, minutes] = /^(\d{1,2})(?:[:.h]?(\d{2}))?$/.exec(clean) ?? [];
  const minute = Number(hours) * 60 + Number(minutes ?? 0);
  if (hours === undefined || Number(hours) > 24 || Number(minutes ?? 0) > 59 || minute > DAY_MIN)
    return { minute: null, fault: 'Write a time, as 9:30.' };
  return { minute, fault: null };
}

/** Minutes at which a scale has its marks: a quarter, a half or a whole hour apart, whatever fits. */
export function marks(from: number, until: number): number[] {
  const apart = [15, 30, 60, 120].find((one) => (until - from) / one <= 9) ?? 240;
  const first = Math.ceil(from / apart) * apart;
  return Array.from({ length: Math.floor((until - first) / apart) + 1 }, (_, at) => first + at * apart);
}

/** "in 12 min", "now" where it is. */
export const inWords = (minutes: number) => (minutes <= 0 ? 'now' : `in ${lengthWords(minutes)}`);
