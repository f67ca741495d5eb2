import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { energyWithUnit, wholeNumber } from '~/lib/format';
import { asMacro, readNumber } from '~/lib/numbers';
import { Button } from '~/parts/button';
import { Choice, Toggles } from '~/parts/choice';
import { Field, Tick } from '~/parts/field';
import { Notice } from '~/parts/notice';
import type { DayDraft, TargetDraft } from '~/views/clients/draft';

const CONDITIONS: NonNullable<Schemas['SuggestionInput']['conditions']> = [
  'pregnant or nursing',
  'kidney or liver disease',
  'diabetes on medication',
  'a history of disordered eating',
];

const ACTIVITIES = [
  { value: '1.3', label: 'sits most of the day' },
  { value: '1.5', label: 'on their feet, trains a little' },
  { value: '1.7', label: 'trains most days' },
  { value: '1.9', label: 'trains hard each day' },
  { value: '2.2', label: 'heavy work and hard training' },
];

const FIGURES = [
  { key: 'age_y', label: 'Age', unit: 'y' },
  { key: 'height_cm', label: 'Height', unit: 'cm' },
  { key: 'weight_kg', label: 'Weight', unit: 'kg' },
  { key: 'body_fat_share', label: 'Body fat, if known', unit: '%' },
  { key: 'protein_g_per_kg', label: 'Protein per kg', unit: 'g' },
  { key: 'fat_g_per_kg', label: 'Fat per kg', unit: 'g' },
  { key: 'change_share', label: 'Energy, more or less', unit: '%' },
  { key: 'share', label: 'This container, of the day', unit: '%' },
] as const;

type Key = (typeof FIGURES)[number]['key'];
const PERCENT: Key[] = ['body_fat_share', 'change_share', 'share'];

const START: Record<Key, string> = {
  age_y: '',
  height_cm: '',
  weight_kg: '',
  body_fat_share: '',
  protein_g_per_kg: '1.8',
  fat_g_per_kg: '0.9',
  change_share: '0',
  share: '35',
};

const macros = (figures: Schemas['MacroFigures'] | null) => ({
  protein_g: asMacro('protein_g', whole(figures?.protein_g)),
  carbohydrate_g: asMacro('carbohydrate_g', whole(figures?.carbohydrate_g)),
  fat_g: asMacro('fat_g', whole(figures?.fat_g)),
});

const whole = (value: number | undefined) => (value === undefined ? null : Math.round(value));

/** Suggested figures of a day, with the formulas, and their part for one container. Nothing typed here is kept. */
export function SuggestDay({
  onTake,
  onTakeDay,
}: {
  onTake: (figures: Partial<TargetDraft>) => void;
  onTakeDay: (figures: Partial<DayDraft>) => void;
}) {
  const [sex, setSex] = useState<'female' | 'male'>('female');
  const [activity, setActivity] = useState('1.5');
  const [typed, setTyped] = useState(START);
  const [conditions, setConditions] = useState<typeof CONDITIONS>([]);
  const suggestion = useMutation({
    mutationFn: (body: Schemas['SuggestionInput']) => ask(api.POST('/api/v1/suggestions', { body })),
  });
  const read = (key: Key) => {
    const { value } = readNumber(typed[key].replace(/^-/, ''));
    if (value === null) return null;
    const signed = typed[key].startsWith('-') ? -value : value;
    return PERCENT.includes(key) ? signed / 100 : signed;
  };
  const faults = suggestion.error ? (toProblem(suggestion.error).errors ?? []) : [];
  const fault = (key: string) => faults.find((one) => one.pointer === `/${key}`)?.message;
  const run = () =>
    suggestion.mutate({
      sex,
      activity: Number(activity),
      conditions,
      age_y: read('age_y') ?? 0,
      height_cm: read('height_cm') ?? 0,
      weight_kg: read('weight_kg') ?? 0,
      body_fat_share: read('body_fat_share'),
      protein_g_per_kg: read('protein_g_per_kg') ?? 0,
      fat_g_per_kg: read('fat_g_per_kg') ?? 0,
      change_share: read('change_share') ?? 0,
      share: read('share') ?? 0,
    });
  const found = suggestion.data;
  return (
    <details className="mt-4 rounded-xl border border-steel bg-sheet p-4">
      <summary className="min-h-8 font-medium">Suggest the figures of a day</summary>
      <p className="mt-2 max-w-prose text-sm text-muted">
        For healthy adults. What you type here is not kept.
      </p>
      <div className="mt-3 grid grid-cols-2 gap-3 md:grid-cols-5">
        <Toggles
          label="Formula for"
          options={[
            { value: 'female', label: 'women' },
            { value: 'male', label: 'men' },
          ]}
          value={sex}
          onValue={setSex}
        />
        <Choice label="Activity" options={ACTIVITIES} value={activity} onValue={setActivity} />
        {FIGURES.map(({ key, label, unit }) => (
          <Field
            key={key}
            label={label}
            unit={unit}
            inputMode="decimal"
            value={typed[key]}
            onChange={(event) => setTyped({ ...typed, [key]: event.target.value })}
            fault={fault(key)}
          />
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-x-5">
        {CONDITIONS.map((condition) => (
          <Tick
            key={condition}
            label={condition}
            checked={conditions.includes(condition)}
            onChange={(on) =>
              setConditions(on ? [...conditions, condition] : conditions.filter((one) => one !== condition))
            }
          />
        ))}
      </div>
      <Button className="mt-3" onClick={run} disabled={suggestion.isPending}>
        Suggest
      </Button>
      {found?.referral ? (
        <div className="mt-3">
          <Notice tone="alert" title="Please refer">
            {found.referral}
          </Notice>
        </div>
      ) : null}
      {found?.day && found.container ? (
        <div className="mt-3 space-y-3">
          <ul className="figures text-sm">
            {found.steps.map((step) => (
              <li key={step} className="border-t border-steel py-1">
                {step}
              </li>
            ))}
          </ul>
          {found.warnings.map((warning) => (
            <Notice key={warning} tone="caution">
              {warning}. Ask a doctor or registered dietitian before anyone eats by it.
            </Notice>
          ))}
          <p>
            This container: <strong>{wholeNumber(found.container.protein_g)} g protein</strong>,{' '}
            {wholeNumber(found.container.carbohydrate_g)} g carbohydrate, {wholeNumber(found.container.fat_g)}{' '}
            g fat, {energyWithUnit(found.container.kcal)}.
          </p>
          <p className="flex flex-wrap gap-3">
            <Button onClick={() => onTakeDay(macros(found.day))}>Add the whole day</Button>
            <Button onClick={() => onTake(macros(found.container))}>Add this container as a target</Button>
          </p>
        </div>
      ) : null}
    </details>
  );
}
