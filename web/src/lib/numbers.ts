/** Reading numbers as people type them. The typed text is kept until it is a number. */

import { macroShown, massInGrams, massShown, massUnit } from '~/lib/units';

export type Typed = { value: number | null; fault: string | null };

/** `text` as a number: null for nothing typed, a sentence for what is no number. A comma may be the point. */
export function readNumber(text: string): Typed {
  const plain = text.trim().replace(/\s/g, '');
  if (plain === '') return { value: null, fault: null };
  const thousands = /^-?\d{1,3}(,\d{3})+(\.\d+)?$/.test(plain)
    ? plain.replace(/,/g, '')
    : plain.replace(',', '.');
  if (!/^-?(\d+\.?\d*|\.\d+)$/.test(thousands)) {
    return {
      value: null,
      fault: `“${text.trim()}” is not a number. Type digits, with a point for decimals.`,
    };
  }
  return { value: Number(thousands), fault: null };
}

export const asText = (value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(value);

/** A weight as typed: grams, or a text that the server reads ("412+380-35", "1.2 kg"). */
export type TypedWeight = { value: number | string | null; fault: string | null };

const TERM = '(\\d[\\d.,\\s]*|[.,]\\d+)\\s*(g|kg|oz|lb)?';
const SUM = new RegExp(`^${TERM}(\\s*[-+−–]\\s*${TERM})*$`, 'i');

/** Whether a text is a sum, a difference or carries its unit, so that the server has to read it. */
export const isSum = (text: string) => /[a-z+−–]|\d\s*-/i.test(text);

/** `text` as a weight. Plain numbers become grams here; sums are sent as they stand, each number with its unit. */
export function readWeight(text: string): TypedWeight {
  if (!isSum(text)) {
    const { value, fault } = readNumber(text);
    return { value: value === null ? null : massInGrams(value), fault };
  }
  if (!SUM.test(text.trim())) {
    return {
      value: null,
      fault: `“${text.trim()}” is not a weight. Type digits, a sum like 412+380, or before and after like 812-764.`,
    };
  }
  return { value: withUnits(text), fault: null };
}

/** Each bare number of a sum with the person's unit behind it: what they type is what they mean. */
export const withUnits = (text: string) =>
  text.replace(/[−–]/g, '-').replace(/(\d[\d.,]*)(?!\s*(?:[\d.,]|g|kg|oz|lb))/gi, `$1 ${massUnit()}`);

/** A stored weight as the text of a field, in the person's unit. */
export const asWeight = (grams: number | null | undefined) =>
  grams === null || grams === undefined ? '' : String(Math.round(massShown(grams) * 1000) / 1000);

/** A stored macro figure as the text of a field, energy in the person's unit. */
export const asMacro = (key: string, value: number | null | undefined) =>
  value === null || value === undefined ? '' : String(Math.round(macroShown(key, value) * 1000) / 1000);
