import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import type { Schemas } from '~/api/client';
import type { Scale } from '~/devices/use-scale';
import { exactGrams, exactWeight, plural, weight } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { massInGrams, massUnit } from '~/lib/units';
import { Button } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import type { Filling } from '~/views/batch/fill/sequence';
import type { Fact } from '~/views/batch/fill/use-fills';
import { settingsQuery } from '~/views/kitchen/queries';

type Pot = Schemas['FillPotView'];
type Fate = Schemas['Fate'];
type Note = (fact: Fact, words: string) => void;

const FATES: Record<Fate, string> = {
  'extra containers': 'extra containers',
  'for a client': 'for a client',
  freezer: 'into the freezer',
  'thrown away': 'thrown away',
};
type What = 'again' | 'scoop' | 'rest';

/** The pots that are filled from: put back on the scale, one scoop of each weighed, and what becomes of a rest. */
export function PotsDialog({
  filling,
  scale,
  note,
  onClose,
}: {
  filling: Filling;
  scale: Scale;
  note: Note;
  onClose: () => void;
}) {
  const [open, setOpen] = useState<{ what: What; id: string } | null>(null);
  const pot = filling.pots.find((one) => one.component_id === open?.id);
  if (open && pot) {
    const shared = { pot, scale, note, onDone: () => setOpen(null) };
    return (
      <Overlaid open onOpenChange={onClose} title={pot.name}>
        {open.what === 'rest' ? (
          <Rest {...shared} filling={filling} />
        ) : (
          <OnTheScale key={open.what} {...shared} isScoop={open.what === 'scoop'} />
        )}
      </Overlaid>
    );
  }
  return (
    <Overlaid open onOpenChange={onClose} wide title="The pots">
      <ul className="divide-y divide-steel">
        {filling.pots.map((one) => (
          <li key={one.component_id} className="py-2">
            <p className="flex justify-between gap-3">
              <b>{one.name}</b>
              <span className="figures font-bold">{weight(one.left_g)} left</span>
            </p>
            <p className="text-sm text-muted">{toldOf(one)}</p>
            <div className="mt-1 flex flex-wrap gap-2">
              <Button className="min-h-16" onClick={() => setOpen({ what: 'again', id: one.component_id })}>
                Weigh it again
              </Button>
              <Button className="min-h-16" onClick={() => setOpen({ what: 'scoop', id: one.component_id })}>
                {one.scoop_g ? `A scoop is ${exactWeight(one.scoop_g)}` : 'Weigh one scoop'}
              </Button>
              <Button className="min-h-16" onClick={() => setOpen({ what: 'rest', id: one.component_id })}>
                What becomes of the rest
              </Button>
            </div>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Close>
          <Button look="main">Done</Button>
        </Close>
      </div>
    </Overlaid>
  );
}

function toldOf(pot: Pot): string {
  const told = [`${weight(pot.needed_g)} still to go in`];
  if (pot.off_g !== null && Math.abs(pot.off_g) >= 1)
    told.push(
      `when it was weighed again it held ${weight(Math.abs(pot.off_g))} ${pot.off_g < 0 ? 'less' : 'more'} than it should have`,
    );
  for (const rest of pot.rests)
    told.push(
      `${weight(rest.grams)} ${rest.units ? `in ${plural(rest.units, 'extra container')}` : (FATES[rest.fate as Fate] ?? rest.fate)}${rest.client ? ` (${rest.client})` : ''}`,
    );
  return `${told.join('; ')}.`;
}

type Form = { pot: Pot; scale: Scale; note: Note; onDone: () => void };

/** What a pot holds, or a scoop weighs: what the scale shows less what is empty. */
function OnTheScale({ pot, scale, note, onDone, isScoop }: Form & { isScoop: boolean }) {
  const vessels = useQuery(settingsQuery).data?.vessels ?? [];
  const [gross, setGross] = useState('');
  const [empty, setEmpty] = useState('');
  const [read, less] = [readNumber(gross), readNumber(empty)];
  const net = read.value === null ? null : massInGrams(read.value - (less.value ?? 0));
  const isImpossible = net !== null && net < 0;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (net === null || isImpossible || (isScoop && net === 0)) return;
    note(
      { event: isScoop ? 'scoop weighed' : 'pot weighed', component_id: pot.component_id, grams: net },
      isScoop
        ? `One scoop of ${pot.name}: ${exactWeight(net)}`
        : `${pot.name} weighed again: ${weight(net)} left`,
    );
    onDone();
  };
  const shows = scale.reading?.value ?? null;
  return (
    <form onSubmit={submit} noValidate className="space-y-3">
      <p className="text-sm">
        {isScoop
          ? 'Fill one scoop as you will fill all of them, and weigh it.'
          : 'Put the pot back on the scale, spoon and lid off. What is left counts from here on.'}
      </p>
      <Field
        label="The scale shows"
        unit={massUnit()}
        inputMode="decimal"
        value={gross}
        onChange={(event) => setGross(event.target.value)}
        fault={read.fault ?? (isImpossible ? 'That is less than the empty one weighs.' : undefined)}
      />
      {shows !== null && scale.reading?.is_steady ? (
        <Button className="min-h-16 w-full" onClick={() => setGross(exactGrams(shows).replaceAll(',', ''))}>
          Take what the scale shows now: {exactWeight(shows)}
        </Button>
      ) : null}
      <Field
        label={isScoop ? 'Empty scoop, where it was not tared' : 'Empty pot'}
        unit={massUnit()}
        inputMode="decimal"
        placeholder="0"
        value={empty}
        onChange={(event) => setEmpty(event.target.value)}
        fault={less.fault ?? undefined}
      />
      {isScoop ? null : (
        <ul aria-label="Known vessels" className="flex flex-wrap gap-2 empty:hidden">
          {vessels.map((one) => (
            <li key={one.id}>
              <Button onClick={() => setEmpty(exactGrams(one.empty_g).replaceAll(',', ''))}>
                {one.name} {exactWeight(one.empty_g)}
              </Button>
            </li>
          ))}
        </ul>
      )}
      <Buttons onBack={onDone} isOpen={net === null || isImpossible} />
    </form>
  );
}

/** A rest goes somewhere, by somebody's decision. */
function Rest({ pot, note, onDone, filling }: Form & { filling: Filling }) {
  const [fate, setFate] = useState<Fate>('freezer');
  const [client, setClient] = useState('');
  const [containers, setContainers] = useState('1');
  const [grams, setGrams] = useState(exactGrams(pot.over_g).replaceAll(',', ''));
  const [text, setText] = useState('');
  const read = readNumber(grams);
  const clients = [...new Map(filling.containers.map((box) => [box.client_id, box.client]))];
  const amount = read.value === null ? null : massInGrams(read.value);
  const count = readNumber(containers);
  const isExtra = fate === 'extra containers';
  const isMissing = (fate === 'for a client' && !client) || (isExtra && !count.value);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!amount || isMissing) return;
    note(
      {
        event: 'rest',
        component_id: pot.component_id,
        grams: amount,
        fate,
        client_id: fate === 'for a client' ? client : null,
        units: isExtra ? count.value : null,
        text,
      },
      `${weight(amount)} ${pot.name}: ${FATES[fate]}`,
    );
    onDone();
  };
  return (
    <form onSubmit={submit} noValidate className="space-y-3">
      <p className="text-sm">
        {weight(pot.left_g)} are left, {weight(pot.needed_g)} still go into containers.
      </p>
      <Field
        label="How much of it"
        unit={massUnit()}
        inputMode="decimal"
        value={grams}
        onChange={(event) => setGrams(event.target.value)}
        fault={
          read.fault ??
          (amount !== null && amount > pot.left_g
            ? 'There is less than that left; it is noted all the same.'
            : undefined)
        }
      />
      <Choice label="What becomes of it" options={optionsOf(FATES)} value={fate} onValue={setFate} />
      {isExtra ? (
        <Field
          label="In how many containers"
          inputMode="numeric"
          value={containers}
          onChange={(event) => setContainers(event.target.value)}
          hint={
            amount && count.value
              ? `${exactWeight(amount / count.value)} in each. They belong to nobody yet.`
              : null
          }
          fault={count.fault}
        />
      ) : null}
      {fate === 'for a client' ? (
        <Choice
          label="For whom"
          options={[{ value: '', label: 'choose' }, ...clients.map(([value, label]) => ({ value, label }))]}
          value={client}
          onValue={setClient}
        />
      ) : null}
      <Field
        label="Note, if there is something to say"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {fate === 'freezer' ? (
        <p className="text-sm text-muted">
          Cooled within 90 minutes and labelled with the day; what was frozen is thawed and heated once. Local
          rules go first.
        </p>
      ) : null}
      <Buttons onBack={onDone} isOpen={!amount || isMissing} />
    </form>
  );
}

const Buttons = ({ onBack, isOpen }: { onBack: () => void; isOpen: boolean }) => (
  <div className="flex justify-end gap-3">
    <Button className="min-h-16" onClick={onBack}>
      Back
    </Button>
    <Button className="min-h-16" type="submit" look="main" disabled={isOpen}>
      Note it
    </Button>
  </div>
);
