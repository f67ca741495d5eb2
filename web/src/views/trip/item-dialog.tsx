import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toProblem } from '~/api/client';
import { FoodPicker } from '~/food/food-picker';
import { currencyUnit, weight } from '~/lib/format';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { WeightField } from '~/parts/weight-field';
import { substitutesQuery } from '~/views/trip/queries';
import type { TripDesk } from '~/views/trip/use-trip';
import { asListed, priceByWeight, type Row, soldAs } from '~/views/trip/walking';

type Shared = { row: Row; note: TripDesk['note']; onClose: () => void };

/** What else can happen to an item: something else was bought, it is not there, a word about it. */
export function ItemDialog(props: Shared & { tripId: string }) {
  const { row, note, onClose } = props;
  const { item, state } = row;
  return (
    <Overlaid
      open
      wide
      onOpenChange={(open) => {
        if (!open) onClose();
      }}
      title={item.name}
      detail={`${weight(item.to_buy_g)} to buy for ${[...new Set(item.needs.map((need) => need.component))].join(', ')}`}
    >
      <BoughtOther {...props} />
      <section aria-label="It is not there" className="mt-5 border-t border-steel pt-3">
        <div className="flex items-center justify-between gap-3">
          <h3 className="text-base">Not there?</h3>
          {state.is_missing ? null : (
            <Button
              onClick={() =>
                void note(`${item.name}: not there`, { item: item.food_id, event: 'not there', text: '' })
              }
            >
              It is not there
            </Button>
          )}
        </div>
        {state.is_missing ? <Instead {...props} /> : null}
      </section>
      <Remark row={row} note={note} onClose={onClose} />
    </Overlaid>
  );
}

/** Another pack, another amount, another food: what was really bought. */
function BoughtOther({ row: { item, state }, note, onClose }: Shared) {
  const listed = asListed(item);
  const first = state.bought?.packs[0] ?? listed.packs[0];
  const [food, setFood] = useState({ id: state.bought?.food_id ?? item.food_id, name: item.name });
  const [name, setName] = useState(first?.name ?? '');
  const [grams, setGrams] = useState(asWeight(Math.round(Number(first?.grams ?? item.to_buy_g))));
  const [count, setCount] = useState(asText(first?.count ?? 1));
  const [typedPrice, setTypedPrice] = useState<string | null>(null);
  const weighed = readWeight(grams);
  // What is weighed costs by its weight, until another price is typed.
  const paid = typedPrice ?? asText(first ? priceByWeight(first, weighed.value) : null);
  const counted = readNumber(count);
  const priced = readNumber(paid);
  const isReady =
    typeof weighed.value === 'number' && weighed.value > 0 && (counted.value ?? 0) >= 1 && !priced.fault;
  const save = () => {
    const each = Number(weighed.value);
    const packs = Math.round(counted.value ?? 1);
    void note(`${item.name}: ${packs} × ${weight(each)} of ${food.name} in the basket`, {
      item: item.food_id,
      event: 'bought',
      text: '',
      bought: {
        food_id: food.id,
        grams: each * packs,
        packs: [
          {
            name,
            grams: each,
            count: packs,
            price: priced.value,
            shop: first?.shop ?? '',
            sold: food.id === item.food_id ? soldAs(first, name, packs) : 'by the pack',
          },
        ],
      },
    });
    onClose();
  };
  return (
    <section aria-label="Bought otherwise">
      <h3 className="text-base">Bought otherwise</h3>
      <p className="mt-1 flex flex-wrap items-center justify-between gap-2">
        <strong>{food.name}</strong>
        <FoodPicker label="Another food" onPick={(chosen) => setFood({ id: chosen.id, name: chosen.name })} />
      </p>
      {food.id === item.food_id ? null : (
        <p className="text-sm text-muted">
          The plans are made anew with {food.name}, unless somebody who gets it must not have it.
        </p>
      )}
      <div className="mt-2 grid grid-cols-2 gap-3 sm:grid-cols-4">
        <Field
          label="Packs"
          inputMode="numeric"
          value={count}
          onChange={(event) => setCount(event.target.value)}
          fault={counted.fault}
        />
        <WeightField label="In each" value={grams} onText={setGrams} fault={weighed.fault} />
        <Field label="Called" value={name} onChange={(event) => setName(event.target.value)} />
        <Field
          label="Price of one"
          unit={currencyUnit()}
          inputMode="decimal"
          value={paid}
          onChange={(event) => setTypedPrice(event.target.value)}
          fault={priced.fault}
        />
      </div>
      <Button look="main" className="mt-3" disabled={!isReady} onClick={save}>
        Into the basket
      </Button>
    </section>
  );
}

/** Foods that keep every plan within its targets, tried before they are told. */
function Instead({ tripId, row: { item }, note, onClose }: Shared & { tripId: string }) {
  const found = useQuery(substitutesQuery(tripId, item.food_id));
  if (found.isError)
    return (
      <p role="alert" className="text-sm font-medium text-alert">
        {toProblem(found.error).detail}
      </p>
    );
  if (!found.data) return <p className="text-sm text-muted">Trying other foods in the plans …</p>;
  if (found.data.length === 0)
    return (
      <p className="text-sm text-muted">
        No food of its kind keeps every container at its target. Buy what there is, or open the plan for ways
        out.
      </p>
    );
  return (
    <>
      <p className="text-sm text-muted">
        With each of these every container that meets its target still does; nobody must avoid them.
      </p>
      <ul aria-label="Instead of it" className="mt-2 space-y-2">
        {found.data.map((one) => (
          <li key={one.food_id}>
            <Button
              className="w-full !justify-between !whitespace-normal py-2 text-left"
              onClick={() => {
                void note(`${one.name} instead of ${item.name}`, {
                  item: item.food_id,
                  event: 'bought',
                  text: '',
                  bought: { food_id: one.food_id, grams: one.grams, packs: [] },
                });
                onClose();
              }}
            >
              <span>
                {one.name} <span className="text-sm font-normal text-muted">{one.state}</span>
                <span className="block text-sm font-normal text-muted">{one.detail}</span>
              </span>
              <span className="figures">{weight(one.grams)}</span>
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

function Remark({ row: { item, state }, note, onClose }: Shared) {
  const [text, setText] = useState(state.note);
  return (
    <form
      className="mt-5 flex items-end gap-2 border-t border-steel pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        void note(`${item.name}: ${text.trim() || 'no note'}`, {
          item: item.food_id,
          event: 'note',
          text: text.trim(),
        });
        onClose();
      }}
    >
      <div className="flex-1">
        <Field label="Note" value={text} onChange={(event) => setText(event.target.value)} />
      </div>
      <Button type="submit" disabled={text.trim() === state.note}>
        Keep
      </Button>
    </form>
  );
}
