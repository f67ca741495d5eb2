import { useWatch } from 'react-hook-form';
import { currencyUnit } from '~/lib/format';
import type { Form } from '~/lib/use-typed-form';
import { Button } from '~/parts/button';
import { ChoiceField, GramsField, TextField } from '~/parts/form-fields';
import { newMeasure, newPack, type SupplyDraft } from '~/views/pantry/draft';

const SOLD = [
  { value: 'by the pack', label: 'by the pack' },
  { value: 'by the piece', label: 'by the piece' },
  { value: 'by weight', label: 'by weight' },
] as const;

/** What the grams of a pack mean. */
const GRAMS_OF = {
  'by the pack': 'Net',
  'by the piece': 'One weighs about',
  'by weight': 'The price is for',
} as const;

/** Household measures and packs of a food, as this kitchen has them. */
export function SupplyFields({
  form: { control, change },
  narrow = false,
}: {
  form: Form<SupplyDraft>;
  narrow?: boolean;
}) {
  const [measures, packs] = useWatch({ control, name: ['measures', 'packs'] });
  return (
    <div className={`grid gap-5 ${narrow ? '' : '2xl:grid-cols-2'}`}>
      <fieldset>
        <legend className="mb-1 font-medium">Own household measures</legend>
        {measures.map(({ key }, index) => (
          <div key={key} className="mb-2 grid grid-cols-[1fr_120px_auto] items-start gap-2">
            <TextField
              control={control}
              name={`measures.${index}.name`}
              label={`Measure ${index + 1}`}
              hideLabel
              placeholder="cup, slice, medium"
            />
            <GramsField
              control={control}
              name={`measures.${index}.grams`}
              label={`Measure ${index + 1}, weight`}
              hideLabel
            />
            <Button
              look="quiet"
              aria-label={`Remove measure ${index + 1}`}
              onClick={() => change('measures', (now) => now.filter((one) => one.key !== key))}
            >
              ×
            </Button>
          </div>
        ))}
        <Button onClick={() => change('measures', (now) => [...now, newMeasure()])}>Add a measure</Button>
      </fieldset>
      <fieldset>
        <legend className="mb-1 font-medium">Packs it is bought in</legend>
        {packs.map(({ key, sold }, index) => (
          <div
            key={key}
            className={`mb-3 grid items-end gap-2 border-b border-steel pb-3 ${narrow ? 'grid-cols-2' : 'grid-cols-2 sm:grid-cols-4'}`}
          >
            <TextField
              control={control}
              name={`packs.${index}.name`}
              label={index ? `Pack ${index + 1}` : 'Pack'}
              placeholder="tin"
            />
            <ChoiceField control={control} name={`packs.${index}.sold`} label="Sold" options={SOLD} />
            <GramsField control={control} name={`packs.${index}.grams`} label={GRAMS_OF[sold]} />
            <GramsField control={control} name={`packs.${index}.drained_g`} label="Drained" />
            <TextField
              control={control}
              name={`packs.${index}.price`}
              label="Price"
              unit={currencyUnit()}
              inputMode="decimal"
            />
            <TextField control={control} name={`packs.${index}.shop`} label="Shop" placeholder="any" />
            <TextField control={control} name={`packs.${index}.seen_on`} label="Seen on" type="date" />
            <Button
              look="quiet"
              aria-label={`Remove pack ${index + 1}`}
              onClick={() => change('packs', (now) => now.filter((one) => one.key !== key))}
            >
              Remove
            </Button>
          </div>
        ))}
        <Button onClick={() => change('packs', (now) => [...now, newPack()])}>Add a pack</Button>
      </fieldset>
    </div>
  );
}
