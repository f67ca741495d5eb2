import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { currencyUnit } from '~/lib/format';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { call, write } from '~/offline/writes';
import { Field, Tick } from '~/parts/field';
import { FormDialog, useSaving } from '~/parts/form-dialog';
import type { Kind } from '~/views/containers/queries';

type Draft = Schemas['ContainerKindInput'];

const STANDS = [
  ['freezer', 'Freezer'],
  ['oven', 'Oven'],
  ['microwave', 'Microwave'],
  ['dishwasher', 'Dishwasher'],
] as const;

/** A kind of container: a new one, or one that is known. */
export function KindForm({
  of,
  onClose,
  onSaved,
}: {
  of: Kind | null;
  onClose: () => void;
  onSaved: () => void;
}) {
  const [name, setName] = useState(of?.name ?? '');
  const [ml, setMl] = useState(of ? asText(of.ml) : '');
  const [owned, setOwned] = useState(of ? asText(of.owned) : '');
  const [deposit, setDeposit] = useState(of ? asText(of.deposit) : '');
  const [empty, setEmpty] = useState(of ? asWeight(of.empty_g) : '');
  const [lid, setLid] = useState(of ? asWeight(of.lid_g) : '');
  const [stands, setStands] = useState({
    freezer: of?.freezer ?? false,
    oven: of?.oven ?? false,
    microwave: of?.microwave ?? false,
    dishwasher: of?.dishwasher ?? false,
  });
  const read = {
    ml: readNumber(ml),
    owned: readNumber(owned),
    deposit: readNumber(deposit),
    empty: readWeight(empty),
    lid: readWeight(lid),
  };
  const { save, isSaving, fault } = useSaving((body: Draft) => {
    const about = { about: 'containers', words: [`${body.name} saved`], href: '/containers' };
    return of
      ? write(
          call('put', '/api/v1/containers/{kind_id}', { params: { path: { kind_id: of.id } }, body }),
          about,
        )
      : write(call('post', '/api/v1/containers', { body }), about);
  }, onSaved);
  const submit = () => {
    if (Object.values(read).some((one) => one.fault)) return;
    save({
      name,
      // What was left empty is refused at its field, in words.
      ml: read.ml.value ?? 0,
      owned: read.owned.value ?? 0,
      deposit: read.deposit.value,
      empty_g: read.empty.value,
      lid_g: read.lid.value,
      ...stands,
    });
  };
  return (
    <FormDialog
      title={of ? of.name : 'A kind of container'}
      isSaving={isSaving}
      onSubmit={submit}
      onClose={onClose}
    >
      <Field
        label="Name"
        placeholder="glass box"
        value={name}
        onChange={(event) => setName(event.target.value)}
        fault={fault('/name')}
      />
      <Field
        label="Holds"
        unit="ml"
        inputMode="decimal"
        value={ml}
        onChange={(event) => setMl(event.target.value)}
        fault={read.ml.fault ?? fault('/ml')}
      />
      <Field
        label="How many there are in all"
        inputMode="numeric"
        value={owned}
        onChange={(event) => setOwned(event.target.value)}
        fault={read.owned.fault ?? fault('/owned')}
      />
      <Field
        label="Deposit on one"
        unit={currencyUnit()}
        inputMode="decimal"
        hint="Told with what a client still has."
        value={deposit}
        onChange={(event) => setDeposit(event.target.value)}
        fault={read.deposit.fault ?? fault('/deposit')}
      />
      <Field
        label="Weighs empty"
        unit={massUnit()}
        inputMode="decimal"
        hint="The scale then knows one that was not tared."
        value={empty}
        onChange={(event) => setEmpty(event.target.value)}
        fault={read.empty.fault ?? fault('/empty_g')}
      />
      <Field
        label="Its lid weighs"
        unit={massUnit()}
        inputMode="decimal"
        value={lid}
        onChange={(event) => setLid(event.target.value)}
        fault={read.lid.fault ?? fault('/lid_g')}
      />
      <fieldset className="col-span-2 flex flex-wrap gap-x-5">
        <legend className="mb-1 text-sm font-medium text-muted">What it stands, by its maker’s word</legend>
        {STANDS.map(([key, words]) => (
          <Tick
            key={key}
            label={words}
            checked={stands[key]}
            onChange={(checked) => setStands((now) => ({ ...now, [key]: checked }))}
          />
        ))}
        <p className="basis-full text-sm text-muted">
          Glass from the freezer does not go into a hot oven; no closed lid in a microwave.
        </p>
      </fieldset>
    </FormDialog>
  );
}
