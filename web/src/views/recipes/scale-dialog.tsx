import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { foodQuery } from '~/food/queries';
import { exactWeight } from '~/lib/format';
import { asWeight, readNumber, readWeight } from '~/lib/numbers';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { WeightField } from '~/parts/weight-field';
import { lineName, type RecipeDraft } from '~/views/recipes/draft';

type Way = 'factor' | 'on-hand' | 'packs';

/** Make the recipe larger or smaller: by a factor, to what is on hand of a line, or to whole packs of it. */
export function ScaleDialog({
  draft,
  recipe,
  onScaled,
}: {
  draft: RecipeDraft;
  recipe: Schemas['RecipeInput'];
  onScaled: (view: Schemas['RecipeView']) => void;
}) {
  const [open, setOpen] = useState(false);
  const [way, setWay] = useState<Way>('factor');
  const [factor, setFactor] = useState('2');
  const [amount, setAmount] = useState('');
  const [packs, setPacks] = useState('');
  const [line, setLine] = useState('0/0');
  const lines = draft.components.flatMap((component, at) =>
    component.lines.map((one, place) => ({
      value: `${at}/${place}`,
      label: `${lineName(one)} (${component.name || 'component'})`,
      food: one.food?.id,
    })),
  );
  const scale = useMutation({
    mutationFn: (body: Schemas['ScaleInput']) => ask(api.POST('/api/v1/recipes/scale', { body })),
    onSuccess: (view) => {
      onScaled(view);
      setOpen(false);
    },
  });
  const typed = readWeight(amount);
  const food = lines.find((one) => one.value === line)?.food;
  const known = useQuery({
    ...foodQuery(food ?? ''),
    enabled: open && way === 'packs' && food !== undefined,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    event.stopPropagation();
    const [component, place] = line.split('/').map(Number);
    const of = { recipe, component: component ?? 0, line: place ?? 0 };
    if (way === 'factor') scale.mutate({ recipe, factor: readNumber(factor).value });
    else if (way === 'on-hand') scale.mutate({ ...of, on_hand_g: typed.value });
    else scale.mutate({ ...of, pack_g: typed.value, packs: readNumber(packs).value });
  };
  return (
    <>
      <Button disabled={lines.length === 0} onClick={() => setOpen(true)}>
        Scale
      </Button>
      <Overlaid open={open} onOpenChange={setOpen} title="Scale the recipe">
        <form onSubmit={submit} noValidate className="space-y-3">
          <Choice
            label="By"
            value={way}
            options={[
              { value: 'factor', label: 'a factor' },
              { value: 'on-hand', label: 'what is on hand of a line' },
              { value: 'packs', label: 'whole packs of a line' },
            ]}
            onValue={setWay}
          />
          {way === 'factor' ? (
            <Field
              label="Times"
              unit="×"
              inputMode="decimal"
              value={factor}
              onChange={(event) => setFactor(event.target.value)}
              fault={readNumber(factor).fault}
            />
          ) : (
            <>
              <Choice label="Line" value={line} options={lines} onValue={setLine} />
              <WeightField
                label={way === 'packs' ? 'One pack holds' : 'On hand'}
                value={amount}
                onText={setAmount}
                fault={typed.fault}
              />
              {way === 'packs' && known.data ? (
                <KnownPacks packs={known.data.packs} onPick={(grams) => setAmount(asWeight(grams))} />
              ) : null}
              {way === 'packs' ? (
                <Field
                  label="Packs"
                  inputMode="numeric"
                  placeholder="as many as the recipe needs, rounded up"
                  value={packs}
                  onChange={(event) => setPacks(event.target.value)}
                />
              ) : null}
            </>
          )}
          <p className="text-sm text-muted">
            Every component follows, the sauce too; lines marked to keep their amount stay. Nothing is saved
            yet.
          </p>
          {scale.isError ? (
            <p role="alert" className="text-sm font-medium text-alert">
              {toProblem(scale.error).detail}
            </p>
          ) : null}
          <div className="flex gap-2">
            <Button type="submit" look="main" disabled={scale.isPending}>
              Scale it
            </Button>
            <Close>
              <Button>Cancel</Button>
            </Close>
          </div>
        </form>
      </Overlaid>
    </>
  );
}

/** The packs the kitchen buys this food in, by what a recipe takes of one: what it drains to, where that is known. */
function KnownPacks({ packs, onPick }: { packs: Schemas['PackView'][]; onPick: (grams: number) => void }) {
  return (
    <div className="flex flex-wrap gap-2">
      {packs.map((pack) => (
        <Button key={`${pack.name} ${pack.grams}`} onClick={() => onPick(pack.covers_g)}>
          {pack.name}, {exactWeight(pack.covers_g)}
          {pack.covers_g === pack.grams ? '' : ' drained'}
        </Button>
      ))}
    </div>
  );
}
