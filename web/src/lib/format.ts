/** Figures as they are shown. Rounding happens here and nowhere else. */

import { energyShown, energyUnit, massShown, massUnit } from '~/lib/units';

const whole = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 });
const tenth = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const upToTenth = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 1 });
const upToHundredth = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 2 });
const DATE = { weekday: 'short', day: 'numeric', month: 'long' } as const;
const TIME = { hour: '2-digit', minute: '2-digit' } as const;
// A day of the calendar is the same day in every zone.
const calendar = new Intl.DateTimeFormat('en-GB', { ...DATE, timeZone: 'UTC' });
const withYear = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' });
let date = new Intl.DateTimeFormat('en-GB', DATE);
// The Swedish way of writing a day is that of the calendar: 2026-11-29.
let isoDay = new Intl.DateTimeFormat('sv-SE');
let clock = new Intl.DateTimeFormat('en-GB', TIME);
let currency: string | null = null;

/** Times are told in the kitchen's zone and prices in its currency, once somebody has set them. */
export function keepPlace(place: { time_zone: string | null; currency: string | null }) {
  const zone = place.time_zone ? { timeZone: place.time_zone } : {};
  date = new Intl.DateTimeFormat('en-GB', { ...DATE, ...zone });
  clock = new Intl.DateTimeFormat('en-GB', { ...TIME, ...zone });
  isoDay = new Intl.DateTimeFormat('sv-SE', zone);
  currency = place.currency;
}

/** The kitchen's currency as it stands at a field; nothing while nobody has set it. */
export const currencyUnit = () => currency ?? '';

/** A price in the kitchen's currency, a bare number while nobody has set it. */
export const price = (value: number) =>
  currency
    ? new Intl.NumberFormat('en-GB', { style: 'currency', currency, currencyDisplay: 'narrowSymbol' }).format(
        value,
      )
    : value.toFixed(2);

/** A count or an energy without decimals. */
export const wholeNumber = (value: number) => whole.format(value);
export const exactNumber = (value: number) => upToTenth.format(value);
/** A weight in the person's unit, without the unit: whole grams, or tenths of an ounce. */
export const grams = (value: number) =>
  massUnit() === 'g' ? whole.format(value) : upToTenth.format(massShown(value));
export const exactGrams = (value: number) =>
  massUnit() === 'g' ? upToTenth.format(value) : upToHundredth.format(massShown(value));
/** From where to where filling may stop, rounded inward: what stands here is never outside. */
export function between(low: number, planned: number, high: number): string {
  const steps = massUnit() === 'g' ? 1 : 10;
  const inside = (value: number, round: (steps: number) => number, clip: (...values: number[]) => number) =>
    clip(round(massShown(value) * steps) / steps, massShown(planned));
  return `${upToHundredth.format(inside(low, Math.ceil, Math.min))}–${upToHundredth.format(inside(high, Math.floor, Math.max))}`;
}
/** A weight with its unit. */
export const weight = (value: number) => `${grams(value)} ${massUnit()}`;
export const exactWeight = (value: number) => `${exactGrams(value)} ${massUnit()}`;
export const energy = (kcal: number) => whole.format(energyShown(kcal));
export const energyWithUnit = (kcal: number) => `${energy(kcal)} ${energyUnit()}`;
export const oneDecimal = (value: number) => tenth.format(value);

/** A deviation with its sign; what rounds to nothing has none. */
export function signed(value: number): string {
  const rounded = Math.round(value);
  if (rounded === 0) return '0';
  return `${rounded > 0 ? '+' : '−'}${whole.format(Math.abs(rounded))}`;
}

/** "keeps 74 %" where weight is lost, "takes up × 2.77" where water is. */
export function yieldWords(factor: number): string {
  if (Math.abs(factor - 1) < 0.005) return 'no change';
  return factor < 1 ? `keeps ${whole.format(factor * 100)} %` : `takes up ×${factor.toFixed(2)}`;
}

/** The loss of a yield, or the gain where water is taken up; nothing where weight stays what it is. */
export function lossWords(factor: number): string {
  if (yieldWords(factor) === 'no change') return '';
  return factor > 1 ? `gains ${percent(factor - 1)}` : `loss ${percent(1 - factor)}`;
}

/** The yield with the loss beside it. */
export const yieldAndLoss = (factor: number) =>
  [yieldWords(factor), lossWords(factor)].filter(Boolean).join(', ');

export const percent = (share: number) => `${upToTenth.format(share * 100)} %`;
export const day = (iso: string) => calendar.format(new Date(`${iso.slice(0, 10)}T12:00:00Z`));
/** A day that may be of another year: "23 September 2027". */
export const dayAndYear = (iso: string) => withYear.format(new Date(`${iso.slice(0, 10)}T12:00:00Z`));
/** Today in the kitchen's zone, as a day of the calendar. */
export const today = () => isoDay.format(new Date());

/** A day as it is spoken of today: "today", "tomorrow", "Sun 29 November". */
export function dueDay(iso: string): string {
  const days = Math.round((Date.parse(iso) - Date.parse(today())) / 86_400_000);
  return days === 0 ? 'today' : days === 1 ? 'tomorrow' : days === -1 ? 'yesterday' : day(iso);
}

export const moment = (iso: string) => `${date.format(new Date(iso))}, ${clock.format(new Date(iso))}`;
const LISTED = new Intl.ListFormat('en-GB');

/** Things one after the other, as "a, b and c". */
export const listed = (things: string[]) => LISTED.format(things);

export const plural = (count: number, one: string, many = `${one}s`) =>
  `${whole.format(count)} ${count === 1 ? one : many}`;

/** A client's slot with its kind of day, where the days differ. */
export const slotName = (slot: string, dayType: string) =>
  dayType === 'any' ? slot : `${slot}, ${dayType} day`;
