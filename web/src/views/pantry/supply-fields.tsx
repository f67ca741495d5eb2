import { currencyUnit } from '~/lib/format';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { WeightField } from '~/parts/weight-field';
import { type MeasureDraft, newMeasure, newPack, type PackDraft } from '~/views/pantry/draft';

type Supply = { measures: MeasureDraft[]; packs: PackDraft[] };

/** Household measures and packs of a food, as this kitchen has them. */
export function SupplyFields({
  supply,
  narrow = false,
  fault,
  onChange,
}: {
  supply: Supply;
  narrow?: boolean;
  fault: (pointer: string) => string | null;
  onChange: (part: Partial<Supply>) => void;
}) {
  const { measures, packs } = supply;
  const measure = (at: number, part: Partial<MeasureDraft>) =>
    onChange({ measures: measures.map((one, here) => (here === at ? { ...one, ...part } : one)) });
  const pack = (at: number, part: Partial<PackDraft>) =>
    onChange({ packs: packs.map((one, here) => (here === at ? { ...one, ...part } : one)) });
  return (
    <div className={`grid gap-5 ${narrow ? '' : 'xl:grid-cols-2'}`}>
      <fieldset>
        <legend className="mb-1 font-medium">Own household measures</legend>
        {measures.map((one, at) => (
          <div key={one.key} className="mb-2 grid grid-cols-[1fr_120px_auto] items-start gap-2">
            <Field
              label={`Measure ${at + 1}`}
              hideLabel
              placeholder="cup, slice, medium"
              value={one.name}
              onChange={(event) => measure(at, { name: event.target.value })}
              fault={fault(`/measures/${at}/name`)}
            />
            <WeightField
              label={`Measure ${at + 1}, weight`}
              hideLabel
              value={one.grams}
              onText={(grams) => measure(at, { grams })}
              fault={fault(`/measures/${at}/grams`)}
            />
            <Button
              look="quiet"
              aria-label={`Remove measure ${at + 1}`}
              onClick={() => onChange({ measures: measures.filter((_, here) => here !== at) })}
            >
              ×
            </Button>
          </div>
        ))}
        <Button onClick={() => onChange({ measures: [...measures, newMeasure()] })}>Add a measure</Button>
      </fieldset>
      <fieldset>
        <legend className="mb-1 font-medium">Packs it is bought in</legend>
        {packs.map((one, at) => (
          <div key={one.key} className="mb-2 grid grid-cols-[1fr_1fr_1fr_1fr_auto] items-start gap-2">
            <Field
              label={at ? `Pack ${at + 1}` : 'Pack'}
              placeholder="tin"
              value={one.name}
              onChange={(event) => pack(at, { name: event.target.value })}
              fault={fault(`/packs/${at}/name`)}
            />
            <WeightField
              label="Net"
              value={one.grams}
              onText={(grams) => pack(at, { grams })}
              fault={fault(`/packs/${at}/grams`)}
            />
            <WeightField
              label="Drained"
              value={one.drained_g}
              onText={(drained_g) => pack(at, { drained_g })}
              fault={fault(`/packs/${at}/drained_g`)}
            />
            <Field
              label="Price"
              unit={currencyUnit()}
              inputMode="decimal"
              value={one.price}
              onChange={(event) => pack(at, { price: event.target.value })}
              fault={fault(`/packs/${at}/price`)}
            />
            <Button
              look="quiet"
              className="mt-6"
              aria-label={`Remove pack ${at + 1}`}
              onClick={() => onChange({ packs: packs.filter((_, here) => here !== at) })}
            >
              ×
            </Button>
          </div>
        ))}
        <Button onClick={() => onChange({ packs: [...packs, newPack()] })}>Add a pack</Button>
      </fieldset>
    </div>
  );
}
