/**
 * Lines that a scale prints, read into readings: the same as src/yantai/devices/lines.py does, tried on the same recorded
 * lines. A line that is not understood whole is not read at all: half a number is a wrong one.
 */

export type State =
  | 'weight'
  | 'temperature'
  | 'overload'
  | 'underload'
  | 'pieces'
  | 'no probe'
  | 'battery'
  | 'tared'
  | 'zeroed'
  | 'busy'
  | 'silence'
  | 'unreadable'
  | 'lost';

/** What one line says: a weight in grams where `state` is one; null where the line does not say. */
export type Line = {
  state: State;
  value: number | null;
  is_steady: boolean | null;
  unit: string;
  is_net: boolean | null;
  battery_low: boolean;
};

const GRAMS: Record<string, number> = { g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237, ct: 0.2 };
const BATTERY = /^(LO(W)?\W*(BAT.*)?|BAT(TERY)?(\W*LOW?)?)$/i;
const OVERLOAD = /^(-{3,}|E{3,}|H{3,}|[O0]\.?L|OVER.*)$/i;
const UNDERLOAD = /^(L{3,}|_{3,}|U\.?L|UNDER.*)$/i;
const PREFIX = /^(ST|US|OL|UL|WT|GS|NT|N|G)(?=[^A-Z]|$)[:,\s]*/i;
const SUFFIX = /[,\s]+(ST|US|S|D|\?|BAT)$/i;
const WEIGHT = /^([+-]?)\s*(\d[\d.,]*)\s*(kg|g|lb|oz|ct|pcs)?$/i;
const POUNDS = /^([+-]?)\s*(\d+)\s*lb[:\s]*(\d+(?:\.\d+)?)\s*oz$/i;
const ANSWER = /^(S|T|Z)\s+([SDIA+-])(?:\s+([+-]?\d+(?:\.\d+)?)\s*(kg|g|lb|oz|ct))?$/i;
const STEADY: Record<string, boolean> = { ST: true, S: true, US: false, D: false, '?': false };
const NET: Record<string, boolean> = { NT: true, N: true, GS: false, G: false };

const says = (state: State, more: Partial<Line> = {}): Line => ({
  state,
  value: null,
  is_steady: null,
  unit: '',
  is_net: null,
  battery_low: false,
  ...more,
});

/** One line of a scale; a figure without a unit is one in `silentUnit`. */
export function readWeightLine(line: string, silentUnit = 'g'): Line {
  const text = line.trim();
  if (!text) return says('silence');
  if (BATTERY.test(text)) return says('battery', { battery_low: true });
  if (OVERLOAD.test(text)) return says('overload');
  if (UNDERLOAD.test(text)) return says('underload');
  const answer = ANSWER.exec(text);
  return answer ? answered(answer) : printed(text, silentUnit);
}

function answered([, command = '', told = '', digits, unit = '']: RegExpExecArray): Line {
  if (told.toUpperCase() === 'I') return says('busy');
  if (command.toUpperCase() === 'Z') return says('zeroed');
  if (command.toUpperCase() === 'T') return says('tared');
  if (told === '+' || told === '-') return says(told === '+' ? 'overload' : 'underload');
  const steady = STEADY[told.toUpperCase()];
  if (digits === undefined || steady === undefined) return says('unreadable');
  const small = unit.toLowerCase();
  return says('weight', { value: Number(digits) * (GRAMS[small] ?? 1), is_steady: steady, unit: small });
}

function printed(line: string, silentUnit: string): Line {
  const told = new Set<string>();
  let text = line;
  for (let found = PREFIX.exec(text); found; found = PREFIX.exec(text)) {
    told.add((found[1] ?? '').toUpperCase());
    text = text.slice(found[0].length);
  }
  for (let found = SUFFIX.exec(text); found; found = SUFFIX.exec(text)) {
    told.add((found[1] ?? '').toUpperCase());
    text = text.slice(0, found.index);
  }
  if (told.has('OL')) return says('overload');
  if (told.has('UL')) return says('underload');
  const weight = weightOf(text.trim(), silentUnit);
  if (!weight) return says('unreadable');
  if (weight.unit === 'pcs') return says('pieces');
  return says('weight', {
    ...weight,
    is_steady: firstOf(told, STEADY),
    is_net: firstOf(told, NET),
    battery_low: told.has('BAT'),
  });
}

const firstOf = (told: Set<string>, meanings: Record<string, boolean>) =>
  [...told].map((word) => meanings[word]).find((meaning) => meaning !== undefined) ?? null;

function weightOf(text: string, silentUnit: string): { value: number; unit: string } | null {
  const both = POUNDS.exec(text);
  if (both) {
    const value = Number(both[2]) * (GRAMS.lb ?? 0) + Number(both[3]) * (GRAMS.oz ?? 0);
    return { value: both[1] === '-' ? -value : value, unit: 'lb oz' };
  }
  const found = WEIGHT.exec(text);
  if (!found) return null;
  const unit = (found[3] ?? '').toLowerCase();
  const number = numberOf(found[2] ?? '', unit || silentUnit);
  if (number === null) return null;
  const value = unit === 'pcs' ? number : number * (GRAMS[unit || silentUnit] ?? 1);
  return { value: found[1] === '-' ? -value : value, unit };
}

/** The number, with a point or a comma for decimals; null where nobody can tell which it is. */
function numberOf(digits: string, unit: string): number | null {
  let plain = digits;
  if (digits.includes(',') && digits.includes('.'))
    plain = digits.replaceAll(digits.lastIndexOf('.') > digits.lastIndexOf(',') ? ',' : '.', '');
  else if (/^\d{1,3},\d{3}$/.test(digits) && unit !== 'kg' && unit !== 'lb') return null;
  plain = plain.replaceAll(',', '.');
  return /^\d+(\.\d+)?$/.test(plain) ? Number(plain) : null;
}
