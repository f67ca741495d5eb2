import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { useWatch } from 'react-hook-form';
import type { Schemas } from '~/api/client';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { TextField } from '~/parts/form-fields';
import { Tip } from '~/parts/tip';
import { type ClientDraft, typedWords } from '~/views/clients/draft';
import { wordsQuery } from '~/views/clients/queries';

const SHOWN = 4;

/** Words separated by commas, with what each of them means in this kitchen, and what it might mean besides. */
export function WordField({
  label,
  hint,
  form: { control, change },
  name,
  verb,
}: {
  label: string;
  hint: string;
  form: Form<ClientDraft>;
  name: 'exclusions' | 'dislikes';
  /** What a word does to a food: "leaves out". */
  verb: string;
}) {
  const words = typedWords(useDeferredValue(useWatch({ control, name })));
  const meanings = useQuery({ ...wordsQuery(words), enabled: words.length > 0 });
  const add = (word: string) => change(name, (now) => [...typedWords(now), word].join(', '));
  const mend = (word: string, by: string) =>
    change(name, (now) =>
      typedWords(now)
        .map((one) => (one === word ? by : one))
        .join(', '),
    );
  return (
    <div>
      <TextField control={control} name={name} label={label} hint={hint} />
      {words.length && meanings.data ? (
        <ul aria-label={`What the words of “${label}” mean`} className="mt-1 space-y-1 text-sm">
          {meanings.data.map((told) => (
            <li key={told.word}>
              {told.foods.length ? (
                <span className="text-muted">
                  “{told.word}” {verb} {some(told.foods)}
                </span>
              ) : (
                <strong className="text-alert">“{told.word}”: no food here is called that.</strong>
              )}
              <Asked told={told} typed={words} onAdd={add} onMend={(by) => mend(told.word, by)} />
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

function Asked({
  told,
  typed,
  onAdd,
  onMend,
}: {
  told: Schemas['WordView'];
  typed: string[];
  onAdd: (word: string) => void;
  onMend: (by: string) => void;
}) {
  const wider = told.wider.filter((other) => !typed.includes(other.word));
  return (
    <>
      {told.spelling ? (
        <Button look="quiet" onClick={() => onMend(told.spelling ?? '')}>
          Is it “{told.spelling}”?
        </Button>
      ) : null}
      {wider.length ? (
        <span className="block">
          Not {wider.map((other) => other.word).join(', ')}. Meant too?{' '}
          {wider.map((other) => (
            <Tip key={other.word} words={some(other.foods)}>
              <Button look="quiet" onClick={() => onAdd(other.word)}>
                Add {other.word}
              </Button>
            </Tip>
          ))}
        </span>
      ) : null}
    </>
  );
}

function some(foods: string[]) {
  const more = foods.length - SHOWN;
  if (more <= 0) return foods.join('; ');
  return `${foods.slice(0, SHOWN).join('; ')} and ${more} more`;
}
