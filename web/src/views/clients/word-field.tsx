import { useQuery } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import type { Schemas } from '~/api/client';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { typedWords } from '~/views/clients/draft';
import { wordsQuery } from '~/views/clients/queries';

const SHOWN = 4;

/** Words separated by commas, with what each of them means in this kitchen, and what it might mean besides. */
export function WordField({
  label,
  hint,
  value,
  fault,
  verb,
  onChange,
}: {
  label: string;
  hint: string;
  value: string;
  fault: string | null | undefined;
  /** What a word does to a food: "leaves out". */
  verb: string;
  onChange: (text: string) => void;
}) {
  const words = typedWords(useDeferredValue(value));
  const meanings = useQuery({ ...wordsQuery(words), enabled: words.length > 0 });
  const add = (word: string) => onChange([...typedWords(value), word].join(', '));
  const mend = (word: string, by: string) =>
    onChange(
      typedWords(value)
        .map((one) => (one === word ? by : one))
        .join(', '),
    );
  return (
    <div>
      <Field
        label={label}
        hint={hint}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        fault={fault}
      />
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
            <Button key={other.word} look="quiet" title={some(other.foods)} onClick={() => onAdd(other.word)}>
              Add {other.word}
            </Button>
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
