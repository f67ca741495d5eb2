import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { type Problem, type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Field, Tick } from '~/parts/field';
import { showProblem } from '~/parts/show-problem';
import type { Kind } from '~/views/containers/queries';

type Draft = Schemas['ContainerKindInput'];

const NONE = new Map<string, string>();
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
  const [empty, setEmpty] = useState(of ? asWeight(of.empty_g) : '');
  const [lid, setLid] = useState(of ? asWeight(of.lid_g) : '');
  const [stands, setStands] = useState({
    freezer: of?.freezer ?? false,
    oven: of?.oven ?? false,
    microwave: of?.microwave ?? false,
    dishwasher: of?.dishwasher ?? false,
  });
  const [problem, setProblem] = useState<Problem | null>(null);
  const fault = faultFinder(NONE, problem);
  const read = {
    ml: readNumber(ml),
    owned: readNumber(owned),
    empty: readWeight(empty),
    lid: readWeight(lid),
  };
  const save = useMutation({
    mutationFn: (body: Draft) => {
      const about = { about: 'containers', words: [`${body.name} saved`], href: '/containers' };
      return of
        ? write(
            call('put', '/api/v1/containers/{kind_id}', { params: { path: { kind_id: of.id } }, body }),
            about,
          )
        : write(call('post', '/api/v1/containers', { body }), about);
    },
    onSuccess: onSaved,
    onError: (error) => {
      const told = toProblem(error);
      setProblem(told);
      if (!told.errors?.length) showProblem(error);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (Object.values(read).some((one) => one.fault)) return;
    save.mutate({
      name,
      // What was left empty is refused at its field, in words.
      ml: read.ml.value ?? 0,
      owned: read.owned.value ?? 0,
      empty_g: read.empty.value,
      lid_g: read.lid.value,
      ...stands,
    });
  };
  return (
    <Overlaid open onOpenChange={onClose} wide title={of ? of.name : 'A kind of container'}>
      <form onSubmit={submit} noValidate className="grid grid-cols-2 gap-4">
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
        <span />
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
        <div className="col-span-2 flex justify-end gap-3">
          <Close>
            <Button>Cancel</Button>
          </Close>
          <Button type="submit" look="main" disabled={save.isPending}>
            Save
          </Button>
        </div>
      </form>
    </Overlaid>
  );
}
