import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { forgetFigures } from '~/api/query-client';
import { MacroLine } from '~/food/macros';
import { NUTRIENTS } from '~/food/nutrients';
import { plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { foodWordsQuery } from '~/views/pantry/queries';

const LARGEST_MB = 12;

const FIELDS: [string, string][] = [
  ['name', 'Name'],
  ['kcal', 'Energy, kcal'],
  ['kj', 'Energy, kJ'],
  ...NUTRIENTS.filter(({ key }) => key !== 'kcal').map(({ key, name }): [string, string] => [key, name]),
  ['salt_g', 'Salt'],
  ['polyols_g', 'Polyols'],
  ['alcohol_g', 'Alcohol'],
  ['group', 'Group'],
  ['state', 'State'],
  ['serving_g', 'Figures are for, g'],
];

type Input = Schemas['ImportInput'];

/** A CSV of foods: choose it, match its columns, see every bad line, then take what is good. */
export function ImportFoods() {
  const [input, setInput] = useState<Input | null>(null);
  const [trouble, setTrouble] = useState('');
  const [reading, setReading] = useState('');
  const navigate = useNavigate();
  const queries = useQueryClient();
  const words = useQuery(foodWordsQuery).data;
  const read = useMutation({
    mutationFn: (body: Input) =>
      body.save
        ? write(call('post', '/api/v1/foods/import', { body }), {
            about: 'foods',
            words: [`Foods of a file of ${plural(body.text.split('\n').length, 'line')}`],
            href: '/pantry/import',
          })
        : ask(api.POST('/api/v1/foods/import', { body })),
  });
  const found = read.data;
  const choose = async (file: File | undefined) => {
    if (!file) return;
    setTrouble('');
    if (file.size > LARGEST_MB * 1e6) {
      setTrouble(
        `${file.name} is ${(file.size / 1e6).toFixed(0)} MB; up to ${LARGEST_MB} MB fit at once. Split it in parts.`,
      );
      return;
    }
    const { text, note } = decoded(await file.arrayBuffer());
    setReading(note);
    show({
      text,
      columns: {},
      state: 'as-sold',
      group: 'own',
      carbohydrate: 'total',
      save: false,
      skip_bad: false,
    });
  };
  const show = (next: Input) => {
    setInput(next);
    read.mutate(next);
  };
  const save = (skipBad: boolean) => {
    if (!input || !found) return;
    read.mutate(
      { ...input, columns: found.columns, save: true, skip_bad: skipBad },
      {
        onSuccess: (done) => {
          forgetFigures(queries);
          toast.success(`${plural(done.saved, 'food')} imported.`);
          void navigate({ to: '/pantry', search: {} });
        },
      },
    );
  };
  const headings = [
    { value: '', label: 'not in the file' },
    ...(found?.headings ?? []).filter(Boolean).map((one) => ({ value: one, label: one })),
  ];
  return (
    <Page
      title="Import foods"
      detail="a CSV with a line for each food, figures per 100 g or per serving"
      actions={
        <Link to="/pantry" search={{}} className="inline-flex min-h-11 items-center underline">
          Back to the pantry
        </Link>
      }
    >
      <label className="block max-w-xl rounded-xl border border-dashed border-edge p-5">
        <span className="mb-2 block font-medium">CSV file</span>
        <input
          type="file"
          accept=".csv,.txt,.tsv,text/csv"
          onChange={(event) => void choose(event.target.files?.[0])}
        />
        <span className="mt-2 block text-sm text-muted">
          Any table with names, protein, carbohydrate and fat. The layouts of public food-composition tables
          are recognised by their headings.
        </span>
      </label>
      {trouble ? (
        <p role="alert" className="mt-3 font-medium text-alert">
          {trouble}
        </p>
      ) : null}
      {reading ? <p className="mt-3 text-muted">{reading}</p> : null}
      {read.isPending ? (
        <p role="status" className="mt-3 text-muted">
          Reading the file …
        </p>
      ) : null}
      {read.isError ? (
        <div className="mt-3 max-w-2xl">
          <Notice tone="alert" title="Nothing was imported">
            {toProblem(read.error).detail}
          </Notice>
        </div>
      ) : null}
      {input && found ? (
        <div className="mt-5 grid items-start gap-6 lg:grid-cols-[380px_minmax(0,1fr)]">
          <section>
            <h2 className="text-lg">Columns</h2>
            <p className="mb-2 text-sm text-muted">
              {found.layout
                ? `Recognised: ${found.layout}.`
                : 'Matched by their headings; correct what is wrong.'}
            </p>
            <div className="grid grid-cols-2 gap-2">
              {FIELDS.map(([field, label]) => (
                <Choice
                  key={field}
                  label={label}
                  value={found.columns[field] ?? ''}
                  options={headings}
                  onValue={(chosen) => show({ ...input, columns: { ...found.columns, [field]: chosen } })}
                />
              ))}
              <Choice
                label="Carbohydrate is"
                value={input.carbohydrate}
                options={[
                  { value: 'total', label: 'with its fibre' },
                  { value: 'available', label: 'without fibre' },
                ]}
                onValue={(chosen) => show({ ...input, carbohydrate: chosen })}
              />
              <Choice
                label="State, if no column"
                value={input.state}
                options={(words?.states ?? [input.state]).map((one) => ({ value: one, label: one }))}
                onValue={(chosen) => show({ ...input, state: chosen })}
              />
            </div>
          </section>
          <section>
            <h2 className="text-lg">
              {plural(found.good, 'new food')},{' '}
              {plural(found.duplicates.length, 'already here', 'already here')},{' '}
              {plural(found.bad.length, 'bad line')}
            </h2>
            <ul className="mt-1">
              {found.sample.map((food) => (
                <li key={food.id} className="border-t border-steel py-1.5">
                  <span className="font-medium">{food.name}</span>{' '}
                  <span className="text-sm text-muted">{food.state}</span>
                  <span className="block text-sm">
                    <MacroLine amounts={food.per_100g} />
                  </span>
                </li>
              ))}
            </ul>
            {found.bad.length ? (
              <div className="mt-3 rounded-lg border border-l-4 border-steel border-l-alert p-3">
                <h3 className="text-base">Lines that make no sense</h3>
                <ul className="text-sm">
                  {found.bad.map((one) => (
                    <li key={one.line} className="py-0.5">
                      <span className="figures">line {one.line}</span>, {one.column}: {one.message}
                    </li>
                  ))}
                </ul>
              </div>
            ) : null}
            {found.duplicates.length ? (
              <details className="mt-3 text-sm">
                <summary className="min-h-8">Already here, left as they are</summary>
                <ul>
                  {found.duplicates.map((one) => (
                    <li key={one.line}>
                      <span className="figures">line {one.line}</span> {one.name}: {one.known.name},{' '}
                      {one.known.state} ({one.known.source})
                    </li>
                  ))}
                </ul>
              </details>
            ) : null}
            <div className="mt-4 flex flex-wrap gap-3">
              {found.bad.length ? (
                <Button look="main" disabled={found.good === 0 || read.isPending} onClick={() => save(true)}>
                  Import the good lines only
                </Button>
              ) : (
                <Button look="main" disabled={found.good === 0 || read.isPending} onClick={() => save(false)}>
                  Import {plural(found.good, 'food')}
                </Button>
              )}
            </div>
          </section>
        </div>
      ) : null}
    </Page>
  );
}

/** The file's text. What is not UTF-8 is read as Western European, and the coach is told. */
function decoded(bytes: ArrayBuffer): { text: string; note: string } {
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), note: '' };
  } catch {
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      note: 'This file is not UTF-8, so it was read as Western European text. Check the names below; if they are wrong, save it as “CSV UTF-8” and choose it again.',
    };
  }
}
