/** Reading numbers as people type them. The typed text is kept until it is a number. */

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
