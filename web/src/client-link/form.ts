import type { components } from '~/api/schema.gen';
import { type Ask, ask, Refused } from '~/client-link/link';

type Schemas = components['schemas'];
export type MyForm = Schemas['MyFormView'];
export type Answers = Schemas['AnswersInput'];
export type Avoid = Schemas['AvoidInput'];

/** Answers that this phone holds and the server does not yet, by the link that they are for. */
const key = (token: string) => `form/${token}`;

export const readTyped = (store: Storage, token: string): Answers =>
  JSON.parse(store.getItem(key(token)) ?? '{}') as Answers;

export function keepTyped(store: Storage, token: string, typed: Answers) {
  if (Object.keys(typed).length) store.setItem(key(token), JSON.stringify(typed));
  else store.removeItem(key(token));
}

export const askForm = async (fetching: Ask, token: string): Promise<MyForm> =>
  (await (await ask(fetching, token, '/form')).json()) as MyForm;

export type Told = {
  /** Answers that the server has now. */
  kept: Answers;
  /** What is wrong with the others, by field. */
  faults: Record<string, string>;
};

/** Tell answers. One that is refused is left out, so that it keeps no other from being told. */
export async function tellAnswers(fetching: Ask, token: string, answers: Answers): Promise<Told> {
  const faults: Record<string, string> = {};
  let kept = answers;
  while (Object.keys(kept).length) {
    try {
      await ask(fetching, token, '/form', { id: crypto.randomUUID(), method: 'PATCH', body: kept });
      return { kept, faults };
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      const wrong = Object.entries(error.faults).filter(([field]) => field in kept);
      if (!wrong.length) throw error;
      Object.assign(faults, Object.fromEntries(wrong));
      kept = without(
        kept,
        wrong.map(([field]) => field),
      );
    }
  }
  return { kept: {}, faults };
}

export const handFormIn = (fetching: Ask, token: string) =>
  ask(fetching, token, '/form/handed-in', { id: crypto.randomUUID(), method: 'POST', body: {} });

export const without = (answers: Answers, fields: readonly string[]): Answers =>
  Object.fromEntries(Object.entries(answers).filter(([field]) => !fields.includes(field)));

/** What is still typed as it was told is typed no more. */
export const settled = (typed: Answers, told: Answers): Answers =>
  Object.fromEntries(
    Object.entries(typed).filter(
      ([field, value]) =>
        !(field in told) || JSON.stringify(value) !== JSON.stringify(told[field as keyof Answers]),
    ),
  );

/** A number as people write it, null for nothing, undefined for what is none: "72,5" is 72.5. */
export function readFigure(text: string): number | null | undefined {
  const typed = text.trim().replace(',', '.');
  if (!typed) return null;
  return /^\d+(\.\d+)?$/.test(typed) ? Number(typed) : undefined;
}
