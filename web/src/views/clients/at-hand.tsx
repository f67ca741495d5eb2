import { useWatch } from 'react-hook-form';
import { FoodPicker } from '~/food/food-picker';
import { asWeight } from '~/lib/numbers';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { GramsField, TextField } from '~/parts/form-fields';
import type { ClientDraft } from '~/views/clients/draft';

/** Foods that may fill up a day that lacks something: a serving of each, and how many a day at most. */
export function AtHand({ form }: { form: Form<ClientDraft> }) {
  const { control, change } = form;
  const foods = useWatch({ control, name: 'at_hand' });
  return (
    <section className="mt-6">
      <h2 className="mb-1 text-xl">At hand</h2>
      <p className="mb-3 max-w-prose text-sm text-muted">
        What this client may eat besides, where a day of the plan lacks something. Servings of it are tried
        and proposed with the whole days.
      </p>
      <ul className="mb-2 max-w-2xl space-y-2" aria-label="Foods at hand">
        {foods.map((food, place) => (
          <li key={food.key} className="grid grid-cols-[1fr_110px_120px_auto] items-end gap-2">
            <span className="pb-3 leading-tight">{food.name}</span>
            <GramsField
              control={control}
              name={`at_hand.${place}.serving_g`}
              alias="food_id"
              label="A serving"
            />
            <TextField
              control={control}
              name={`at_hand.${place}.most`}
              label="Most a day"
              unit="×"
              inputMode="numeric"
            />
            <Button
              look="quiet"
              aria-label={`Remove ${food.name}`}
              onClick={() => change('at_hand', (now) => now.filter((one) => one.key !== food.key))}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      <FoodPicker
        label="Add a food at hand"
        onPick={(food) =>
          change('at_hand', (now) => [
            ...now,
            {
              key: crypto.randomUUID(),
              food_id: food.id,
              name: food.name,
              serving_g: asWeight(100),
              most: '1',
            },
          ])
        }
      />
    </section>
  );
}
