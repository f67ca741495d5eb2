import * as z from 'zod';
import { asMacro, asText, asWeight, readNumber, readWeight, type TypedWeight } from '~/lib/numbers';
import { heatInCelsius, heatShown, macroStored } from '~/lib/units';

// Schemas are interpreted, not compiled: the page's policy lets no text become code.
z.config({ jitless: true });

/**
 * Fields of forms: text as it is typed, in the person's units, to what is sent and back. Decoding is reading what was
 * typed, and says in words what it cannot read; encoding is filling a form with what is stored.
 */
function field<V>(
  read: (text: string) => { value: V | null; fault: string | null },
  write: (value: V) => string,
) {
  return z.codec(z.string(), z.custom<V | null>(), {
    decode: (text, context) => {
      const { value, fault } = read(text);
      if (fault) context.issues.push({ code: 'custom', message: fault, input: text });
      return value;
    },
    encode: (value) => (value === null || value === undefined ? '' : write(value)),
  });
}

const after =
  <V, W>(read: (text: string) => { value: V | null; fault: string | null }, change: (value: V) => W) =>
  (text: string) => {
    const { value, fault } = read(text);
    return { value: value === null ? null : change(value), fault };
  };

/** A number; null where nothing is typed. */
export const number = field<number>(readNumber, asText);

/** Grams, in the person's unit; a sum stays text, which the server reads. */
export const weight = field<NonNullable<TypedWeight['value']>>(readWeight, (value) =>
  typeof value === 'number' ? asWeight(value) : value,
);

/** Energy in the person's unit; kcal are stored. */
export const energy = field<number>(
  after(readNumber, (value) => macroStored('kcal', value)),
  (kcal) => asMacro('kcal', kcal),
);

/** A temperature in the person's unit; degrees Celsius are stored. */
export const heat = field<number>(after(readNumber, heatInCelsius), (celsius) =>
  asText(Math.round(heatShown(celsius) * 10) / 10),
);

/** A share, typed in percent. */
export const percent = field<number>(
  after(readNumber, (value) => value / 100),
  (share) => asText(Math.round(share * 1e6) / 1e4),
);

type Field<V> = z.ZodCodec<z.ZodString, z.ZodType<V | null>>;

type Context = { issues: { push: (issue: { code: 'custom'; message: string; input: unknown }) => void } };

/** What a field holds; what cannot be read is told where the field stands. */
function readIn<V>(of: Field<V>, text: string, { issues }: Context) {
  const { data, error } = of.safeDecode(text);
  for (const { message } of error?.issues ?? []) issues.push({ code: 'custom', message, input: text });
  return { value: data ?? null, readable: error === undefined };
}

/** The same, which is `nothing` where nothing is typed; `unsaid` shows nothing for it too. */
export const or = <V>(of: Field<V>, nothing: V, { unsaid = false } = {}) =>
  z.codec(z.string(), z.custom<V>(), {
    decode: (text, context) => readIn(of, text, context).value ?? nothing,
    encode: (value) => (unsaid && value === nothing ? '' : of.encode(value)),
  });

/** The same, which has to be typed. */
export const needed = <V>(of: Field<V>, words: string, meanwhile: V) =>
  z.codec(z.string(), z.custom<V>(), {
    decode: (text, context) => {
      const { value, readable } = readIn(of, text, context);
      if (readable && value === null) context.issues.push({ code: 'custom', message: words, input: text });
      return value ?? meanwhile;
    },
    encode: (value) => of.encode(value),
  });

/** Words with commas between them. */
export const words = z.codec(z.string(), z.array(z.string()), {
  decode: (text) => text.split(',').flatMap((word) => word.trim() || []),
  encode: (list) => list.join(', '),
});

/** A date, or none. */
export const date = z.codec(z.string(), z.string().nullable(), {
  decode: (text) => text || null,
  encode: (value) => value ?? '',
});

/** What tells the parts of a form apart. It is not sent. */
export const key = z.codec(z.string(), z.undefined(), {
  decode: () => undefined,
  encode: () => crypto.randomUUID(),
});

/** What a form shows and the server knows already. */
export const shown = z.codec(z.string(), z.string().optional(), {
  decode: () => undefined,
  encode: (value) => value ?? '',
});

export type Read<B> = { body: B; faults: Map<string, string> };

/** What to send of a form as it is typed, and by JSON pointer what cannot be read. */
export function read<S extends z.ZodType>(schema: S, draft: z.input<S>): Read<z.output<S>> {
  const { data, error } = schema.safeDecode(draft);
  const faults = new Map(error?.issues.map((issue) => [`/${issue.path.join('/')}`, issue.message]));
  return { body: data as z.output<S>, faults };
}

/** A place for the key of a form's own, in what is stored and in each part of its lists. */
function withKeys(stored: unknown): unknown {
  if (Array.isArray(stored)) return stored.map(withKeys);
  if (stored === null || typeof stored !== 'object') return stored;
  const entries = Object.entries(stored).map(([name, value]) => [
    name,
    Array.isArray(value) ? withKeys(value) : value,
  ]);
  return { key: undefined, ...Object.fromEntries(entries) };
}

/** A form filled with what is stored. What the form does not know of it is left out. */
export const fill = <S extends z.ZodType>(schema: S, stored: object): z.input<S> =>
  schema.encode(withKeys(stored) as z.output<S>);

/** A form filled anew, whose parts are told apart as before where there are as many. */
export function keepKeys<T>(fresh: T, before: unknown): T {
  if (Array.isArray(fresh))
    return (
      Array.isArray(before) && before.length === fresh.length
        ? fresh.map((one, index) => keepKeys(one, before[index]))
        : fresh
    ) as T;
  if (fresh === null || typeof fresh !== 'object' || before === null || typeof before !== 'object')
    return fresh;
  const old = before as Record<string, unknown>;
  const entries = Object.entries(fresh).map(([name, value]) => [
    name,
    name === 'key' && typeof old.key === 'string' ? old.key : keepKeys(value, old[name]),
  ]);
  return Object.fromEntries(entries) as T;
}
