import type { UseQueryResult } from '@tanstack/react-query';
import { useWatch } from 'react-hook-form';
import { type Schemas, toProblem } from '~/api/client';
import { DayTable } from '~/food/day-table';
import { FoodPicker } from '~/food/food-picker';
import { asWeight } from '~/lib/numbers';
import { energyUnit, massUnit } from '~/lib/units';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { GramsField, TextField } from '~/parts/form-fields';
import { type ClientDraft, DAY_FIGURES, DAY_LIMITS, type DayDraft, newDay } from '~/views/clients/draft';
import { FIGURES } from '~/views/clients/figures';

type Props = {
  form: Form<ClientDraft>;
  preview: UseQueryResult<Schemas['DaysPreview']>;
};

/** Whole days of a client: what they shall hold, what is eaten outside the containers, and how the meals fill them. */
export function DayList({ form, preview }: Props) {
  const days = useWatch({ control: form.control, name: 'days' });
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-xl">Whole days</h2>
      <p className="mb-3 max-w-prose text-sm text-muted">
        What a day of each kind shall hold in all. Extras are eaten outside the containers and come off first;
        a meal below may take its share of what is left.
      </p>
      <ul className="space-y-3">
        {days.map((day, index) => (
          <li key={day.key} className="grid gap-4 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-2">
            <DayFields form={form} day={day} index={index} />
            <DaySum preview={preview} day={day} />
          </li>
        ))}
      </ul>
      <Button
        className="mt-3"
        onClick={() => form.change('days', (now) => [...now, newDay(now.length ? '' : 'any')])}
      >
        Add a whole day
      </Button>
    </section>
  );
}

function DaySum({ preview, day }: { preview: Props['preview']; day: DayDraft }) {
  const sum = preview.data?.days.find(
    (one) => one.day_type.toLowerCase() === day.day_type.trim().toLowerCase(),
  );
  if (preview.isError) return <p className="text-sm text-muted">{toProblem(preview.error).detail}</p>;
  if (!sum && preview.isFetching) return <p className="text-sm text-muted">Adding up the day …</p>;
  if (!sum) return <p className="text-sm text-muted">Give a figure to see how the meals fill this day.</p>;
  return <DayTable day={sum} />;
}

function DayFields({ form, day, index }: { form: Form<ClientDraft>; day: DayDraft; index: number }) {
  const { control, change } = form;
  const at = `days.${index}` as const;
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-2 items-end gap-3">
        <TextField
          control={control}
          name={`${at}.day_type`}
          label="Kind of day"
          placeholder="training, rest, any"
        />
        <Button
          look="quiet"
          aria-label={`Remove the ${day.day_type} day`}
          onClick={() => change('days', (now) => now.filter((one) => one.key !== day.key))}
        >
          Remove this day
        </Button>
        {DAY_FIGURES.map((key) => (
          <TextField
            key={key}
            control={control}
            name={`${at}.${key}`}
            label={FIGURES[key].label}
            unit={key === 'kcal' ? energyUnit() : FIGURES[key].unit}
            inputMode="decimal"
          />
        ))}
      </div>
      <details className="text-sm" open={DAY_LIMITS.some((key) => day[key] !== '')}>
        <summary className="min-h-8 font-medium">Limits of the day</summary>
        <div className="grid grid-cols-3 gap-3">
          {DAY_LIMITS.map((key) => (
            <TextField
              key={key}
              control={control}
              name={`${at}.${key}`}
              label={FIGURES[key].label}
              unit={FIGURES[key].unit}
              inputMode="decimal"
            />
          ))}
        </div>
      </details>
      <ul className="space-y-2" aria-label={`Extras of the ${day.day_type} day`}>
        {day.extras.map((extra, place) => (
          <li key={extra.key} className="grid grid-cols-[1fr_110px_auto] items-center gap-2">
            <span className="leading-tight">{extra.name}</span>
            <GramsField
              control={control}
              name={`${at}.extras.${place}.grams`}
              alias="food_id"
              label={`${massUnit()} of ${extra.name}`}
              hideLabel
            />
            <Button
              look="quiet"
              aria-label={`Remove ${extra.name}`}
              onClick={() => change(`${at}.extras`, (now) => now.filter((one) => one.key !== extra.key))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <FoodPicker
        label="Add an extra"
        onPick={(food) =>
          change(`${at}.extras`, (now) => [
            ...now,
            { key: crypto.randomUUID(), food_id: food.id, name: food.name, grams: asWeight(100) },
          ])
        }
      />
    </div>
  );
}
