import type { UseQueryResult } from '@tanstack/react-query';
import { type Schemas, toProblem } from '~/api/client';
import { DayTable } from '~/food/day-table';
import { FoodPicker } from '~/food/food-picker';
import { energyUnit, massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import {
  type ClientDraft,
  DAY_FIGURES,
  DAY_LIMITS,
  type DayDraft,
  type DayExtraDraft,
  newDay,
} from '~/views/clients/draft';
import { FIGURES } from '~/views/clients/figures';

type Props = {
  draft: ClientDraft;
  preview: UseQueryResult<Schemas['DaysPreview']>;
  fault: (pointer: string) => string | null;
  change: (part: Partial<ClientDraft>) => void;
};

/** Whole days of a client: what they shall hold, what is eaten outside the containers, and how the meals fill them. */
export function DayList({ draft, preview, fault, change }: Props) {
  const set = (place: number, part: Partial<DayDraft>) =>
    change({ days: draft.days.map((one, at) => (at === place ? { ...one, ...part } : one)) });
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-xl">Whole days</h2>
      <p className="mb-3 max-w-prose text-sm text-muted">
        What a day of each kind shall hold in all. Extras are eaten outside the containers and come off first;
        a meal below may take its share of what is left.
      </p>
      <ul className="space-y-3">
        {draft.days.map((day, place) => (
          <li key={day.key} className="grid gap-4 rounded-xl border border-steel bg-sheet p-4 lg:grid-cols-2">
            <DayFields
              day={day}
              pointer={`/days/${place}`}
              fault={fault}
              change={(part) => set(place, part)}
              remove={() => change({ days: draft.days.filter((_, at) => at !== place) })}
            />
            <DaySum preview={preview} day={day} />
          </li>
        ))}
      </ul>
      <Button
        className="mt-3"
        onClick={() => change({ days: [...draft.days, newDay(draft.days.length ? '' : 'any')] })}
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

function DayFields({
  day,
  pointer,
  fault,
  change,
  remove,
}: {
  day: DayDraft;
  pointer: string;
  fault: Props['fault'];
  change: (part: Partial<DayDraft>) => void;
  remove: () => void;
}) {
  const setExtra = (at: number, part: Partial<DayExtraDraft>) =>
    change({ extras: day.extras.map((one, place) => (place === at ? { ...one, ...part } : one)) });
  return (
    <div className="space-y-3">
      <div className="grid grid-cols-2 items-end gap-3">
        <Field
          label="Kind of day"
          value={day.day_type}
          placeholder="training, rest, any"
          onChange={(event) => change({ day_type: event.target.value })}
          fault={fault(`${pointer}/day_type`)}
        />
        <Button look="quiet" aria-label={`Remove the ${day.day_type} day`} onClick={remove}>
          Remove this day
        </Button>
        {DAY_FIGURES.map((key) => (
          <Field
            key={key}
            label={FIGURES[key].label}
            unit={key === 'kcal' ? energyUnit() : FIGURES[key].unit}
            inputMode="decimal"
            value={day[key]}
            onChange={(event) => change({ [key]: event.target.value })}
            fault={fault(`${pointer}/${key}`)}
          />
        ))}
      </div>
      <details className="text-sm" open={DAY_LIMITS.some((key) => day[key] !== '')}>
        <summary className="min-h-8 font-medium">Limits of the day</summary>
        <div className="grid grid-cols-3 gap-3">
          {DAY_LIMITS.map((key) => (
            <Field
              key={key}
              label={FIGURES[key].label}
              unit={FIGURES[key].unit}
              inputMode="decimal"
              value={day[key]}
              onChange={(event) => change({ [key]: event.target.value })}
              fault={fault(`${pointer}/${key}`)}
            />
          ))}
        </div>
      </details>
      <ul className="space-y-2" aria-label={`Extras of the ${day.day_type} day`}>
        {day.extras.map((extra, at) => (
          <li key={extra.key} className="grid grid-cols-[1fr_110px_auto] items-center gap-2">
            <span className="leading-tight">{extra.name}</span>
            <Field
              label={`${massUnit()} of ${extra.name}`}
              hideLabel
              unit={massUnit()}
              value={extra.grams}
              onChange={(event) => setExtra(at, { grams: event.target.value })}
              fault={fault(`${pointer}/extras/${at}/grams`) ?? fault(`${pointer}/extras/${at}/food_id`)}
            />
            <Button
              look="quiet"
              aria-label={`Remove ${extra.name}`}
              onClick={() => change({ extras: day.extras.filter((_, place) => place !== at) })}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <FoodPicker
        label="Add an extra"
        onPick={(food) =>
          change({
            extras: [
              ...day.extras,
              { key: crypto.randomUUID(), food_id: food.id, name: food.name, grams: '100' },
            ],
          })
        }
      />
    </div>
  );
}
