import { useState } from 'react';
import type { Control } from 'react-hook-form';
import type { Schemas } from '~/api/client';
import { PARTS, PLACES, SCHOOLS, schoolHint } from '~/lib/schools';
import { Button } from '~/parts/button';
import { ChoiceField, GramsField, TextField, TickField } from '~/parts/form-fields';
import type { ComponentDraft, Lid, RecipeDraft } from '~/views/recipes/draft';
import { InFields, Reads, useFaulty, useOpened } from '~/views/recipes/opened';
import { componentWords, portionWords } from '~/views/recipes/reading';
import { SchoolPicture } from '~/views/recipes/school-picture';

type At = `components.${number}`;
type Fields = { control: Control<RecipeDraft>; at: At; draft: ComponentDraft };
type Props = Fields & { words: Schemas['RecipeWords']; onRemove: () => void };

const LIDS: { value: Lid; label: string }[] = [
  { value: '', label: 'not said' },
  { value: 'on', label: 'on' },
  { value: 'off', label: 'off' },
];

const asOption = (value: string) => ({ value, label: value === 'none' ? 'not cooked' : value });

/** What a component is, how it is cooked and how it is portioned: to read, and in fields where it is changed. */
export function ComponentHead({ control, at, draft, words, onRemove }: Props) {
  const part = useOpened(control, draft.key, at, (field) => field !== 'lines');
  const name = draft.name || 'this component';
  if (part.isOpen || !draft.name)
    return (
      <InFields part={part} className="-m-2 rounded-lg bg-bench p-2">
        <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-[minmax(0,2fr)_1fr_1fr]">
          <TextField control={control} name={`${at}.name`} label="Component" autoFocus={part.isChosen} />
          <ChoiceField
            control={control}
            name={`${at}.role`}
            label="On the plate"
            options={words.roles.map(asOption)}
          />
          <ChoiceField
            control={control}
            name={`${at}.method`}
            label="Cooked"
            options={words.methods.map(asOption)}
          />
        </div>
        <PortionFields control={control} at={at} draft={draft} />
        <PanFields control={control} at={at} draft={draft} />
        <p className="mt-2 flex justify-between gap-2">
          <Button onClick={onRemove} aria-label={`Remove ${name}`}>
            Remove
          </Button>
          <Button onClick={part.close}>Done</Button>
        </p>
      </InFields>
    );
  const school = SCHOOLS.find(({ value }) => value === draft.school);
  return (
    <div className="relative -m-2 rounded-lg p-2 hover:bg-bench">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-xl">
          {/* All of the head can be pressed. */}
          <Reads part={part} label={name} className="after:absolute after:inset-0">
            {draft.name}
          </Reads>
        </h2>
        <p className="text-sm text-muted">{componentWords(draft)}</p>
      </div>
      <div className="mt-1 flex items-center gap-3 text-sm">
        {draft.served ? <SchoolPicture school={draft.school} /> : null}
        <p>
          {draft.served ? (
            <>
              <span className="font-semibold">{school?.label}.</span>{' '}
              <span className="text-muted">{school?.hint}</span>{' '}
            </>
          ) : null}
          {portionWords(draft)}
        </p>
      </div>
    </div>
  );
}

/** How it is portioned in a new batch, with the figure its school needs. */
function PortionFields({ control, at, draft }: Fields) {
  const counted = draft.school === 'pieces' || draft.school === 'fixed measure';
  return (
    <div className="mt-3 grid grid-cols-2 items-start gap-2 md:grid-cols-4">
      <div className="col-span-2 flex items-start gap-3">
        <div className="min-w-0 flex-1">
          <ChoiceField
            control={control}
            name={`${at}.school`}
            label="How it is portioned"
            hint={schoolHint(draft.school)}
            options={SCHOOLS}
          />
        </div>
        <span className="mt-6">
          <SchoolPicture school={draft.school} />
        </span>
      </div>
      <GramsField control={control} name={`${at}.minimum_g`} label="At least" />
      <GramsField control={control} name={`${at}.maximum_g`} label="At most" placeholder="usual" />
      {draft.school === 'fixed measure' ? (
        <GramsField control={control} name={`${at}.unit_g`} label="One scoop" />
      ) : null}
      {counted ? (
        <ChoiceField control={control} name={`${at}.unit_part`} label="Cut" options={PARTS} />
      ) : null}
      {draft.school === 'plate shares' ? (
        <TextField
          control={control}
          name={`${at}.plate_share`}
          label="Share of the plate"
          inputMode="decimal"
        />
      ) : null}
      {draft.school === 'by eye' ? <GramsField control={control} name={`${at}.eye_g`} label="About" /> : null}
      <div className="col-span-2 md:col-span-1">
        <ChoiceField control={control} name={`${at}.place`} label="Where it goes" options={PLACES} />
      </div>
      {draft.place === 'beside' ? (
        <TextField
          control={control}
          name={`${at}.tub_ml`}
          label="Its tub holds"
          unit="ml"
          inputMode="numeric"
        />
      ) : null}
      <TextField control={control} name={`${at}.group`} label="One of the group" placeholder="of none" />
    </div>
  );
}

const PAN_FIELDS = [
  'poured_fat_g',
  'pieces',
  'pan_capacity_g',
  'cook_min',
  'density_g_per_ml',
  'kit_text',
  'yield',
  'yield_low',
  'yield_expected',
  'yield_high',
];

function PanFields({ control, at, draft }: Fields) {
  const isFaulty = useFaulty(control, at, (field) => PAN_FIELDS.includes(field));
  const [isShown, show] = useState(false);
  return (
    <details className="mt-2" open={isShown || isFaulty} onToggle={(event) => show(event.currentTarget.open)}>
      <summary className="min-h-8 font-medium">Pan and own yield</summary>
      <div className="mt-1 grid grid-cols-2 items-start gap-2 md:grid-cols-4">
        <GramsField control={control} name={`${at}.poured_fat_g`} label="Fat poured off" />
        <TextField control={control} name={`${at}.pieces`} label="Makes pieces" inputMode="numeric" />
        <GramsField control={control} name={`${at}.pan_capacity_g`} label="Pan holds, raw" />
        {draft.method === 'none' ? null : (
          <>
            <ChoiceField control={control} name={`${at}.lid`} label="Lid" options={LIDS} />
            <TextField
              control={control}
              name={`${at}.cook_min`}
              label="On the heat"
              unit="min"
              inputMode="numeric"
              placeholder="usual"
            />
          </>
        )}
        <TextField
          control={control}
          name={`${at}.density_g_per_ml`}
          label="1 ml weighs"
          unit="g"
          inputMode="decimal"
        />
      </div>
      <div className="mt-2 grid gap-x-4 md:grid-cols-2">
        <TickField
          control={control}
          name={`${at}.served`}
          label="Goes into containers, and not only into other components"
        />
        <TickField control={control} name={`${at}.whole_pans`} label="Only whole pans are cooked" />
        <TickField control={control} name={`${at}.packed_raw`} label="Packed raw, to be cooked later" />
      </div>
      {draft.packed_raw ? (
        <TextField control={control} name={`${at}.kit_text`} label="How it is cooked later" />
      ) : null}
      <p className="mt-2 font-medium">Own yield of the whole component</p>
      <div className="grid max-w-xl grid-cols-3 gap-2">
        <TextField control={control} name={`${at}.yield_low`} label="Low ×" inputMode="decimal" />
        <TextField
          control={control}
          name={`${at}.yield_expected`}
          alias="yield"
          label="Usual ×"
          inputMode="decimal"
        />
        <TextField control={control} name={`${at}.yield_high`} label="High ×" inputMode="decimal" />
      </div>
      <p className="mt-1 text-sm text-muted">
        On the raw weight without water, oil and seasoning. Empty: what is known.
      </p>
    </details>
  );
}
