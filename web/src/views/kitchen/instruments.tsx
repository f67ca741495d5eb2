import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { type Instrument, instrumentsQuery } from '~/devices/use-scale';
import { exactWeight } from '~/lib/format';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { massUnit } from '~/lib/units';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Field } from '~/parts/field';
import { FormDialog, useSaving } from '~/parts/form-dialog';
import { showProblem } from '~/parts/show-problem';

type Draft = Schemas['InstrumentInput'];

const KINDS = { scale: 'scale', thermometer: 'thermometer' } as const;
const CONNECTIONS = {
  simulated: 'simulated, on a page of its own',
  serial: 'serial, at the computer that serves',
  tablet: 'serial, at the tablet (Web Serial)',
} as const;
const TALKS = { continuous: 'prints all the time', 'on request': 'answers when it is asked' } as const;
const UNITS = { g: 'grams', kg: 'kilograms', oz: 'ounces', lb: 'pounds' } as const;
const BAUDS = ['1200', '2400', '4800', '9600', '19200', '38400', '57600', '115200'];

const EMPTY: Draft = {
  name: '',
  kind: 'scale',
  connection: 'simulated',
  talk: 'continuous',
  port: '',
  baud: 9600,
  silent_unit: 'g',
  capacity_g: 5000,
  step_g: 1,
};

/** The scales and thermometers of the kitchen, by their names. */
export function Instruments() {
  const found = useQuery(instrumentsQuery);
  const queries = useQueryClient();
  const [open, setOpen] = useState<Instrument | 'new' | null>(null);
  const refresh = () => queries.invalidateQueries({ queryKey: instrumentsQuery.queryKey });
  const putAway = useMutation({
    mutationFn: (one: Instrument) =>
      write(
        call('post', '/api/v1/instruments/{instrument_id}/put-away', {
          params: { path: { instrument_id: one.id } },
        }),
        { about: 'instruments', words: [`${one.name} put away`], href: '/settings' },
      ),
    onSuccess: refresh,
    onError: showProblem,
  });
  return (
    <section aria-labelledby="instruments" className="mt-6">
      <div className="mb-2 flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="instruments" className="text-xl">
          Scales and thermometers
        </h2>
        <Button onClick={() => setOpen('new')}>Add a scale or thermometer</Button>
      </div>
      {found.data?.length === 0 ? (
        <p className="text-muted">
          None yet: weights are typed. A scale on a serial line shows its reading beside the figure as it
          moves; a simulated one lets you try it.
        </p>
      ) : null}
      <ul className="divide-y divide-steel">
        {(found.data ?? []).map((one) => (
          <li key={one.id} className="flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 py-1">
            <span className="min-w-0 flex-1">
              <b>{one.name}</b>{' '}
              <span className="text-muted">
                {one.kind}, {one.connection}
                {one.connection === 'serial' ? ` on ${one.port}` : ''}
                {one.kind === 'scale' && one.capacity_g
                  ? `, up to ${exactWeight(one.capacity_g)} in steps of ${exactWeight(one.step_g)}`
                  : ''}
              </span>
            </span>
            {one.connection === 'simulated' ? (
              <Link
                to="/scales/$instrumentId"
                params={{ instrumentId: one.id }}
                className={buttonClass()}
                target="_blank"
              >
                Its pan
              </Link>
            ) : null}
            <Button onClick={() => setOpen(one)}>Change</Button>
            <Button look="quiet" onClick={() => putAway.mutate(one)}>
              Put away
            </Button>
          </li>
        ))}
      </ul>
      {open ? (
        <InstrumentForm
          of={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
          onSaved={() => {
            void refresh();
            setOpen(null);
          }}
        />
      ) : null}
    </section>
  );
}

function InstrumentForm({
  of,
  onClose,
  onSaved,
}: {
  of: Instrument | null;
  onClose: () => void;
  onSaved: () => void;
}) {
  const { id: _, ...known } = of ?? { id: '', ...EMPTY };
  const [draft, setDraft] = useState<Draft>(known);
  const [capacity, setCapacity] = useState(asWeight(draft.capacity_g as number | null));
  const [step, setStep] = useState(asText(draft.step_g));
  const ports = useQuery({
    queryKey: ['instruments', 'ports'],
    queryFn: () => ask(api.GET('/api/v1/instruments/ports')),
    enabled: draft.connection === 'serial',
  });
  const change = (part: Partial<Draft>) => setDraft((now) => ({ ...now, ...part }));
  const { save, isSaving, fault } = useSaving((body: Draft) => {
    const about = { about: 'instruments', words: [`${body.name} saved`], href: '/settings' };
    return of
      ? write(
          call('put', '/api/v1/instruments/{instrument_id}', {
            params: { path: { instrument_id: of.id } },
            body,
          }),
          about,
        )
      : write(call('post', '/api/v1/instruments', { body }), about);
  }, onSaved);
  const submit = () => {
    const [most, smallest] = [readWeight(capacity), readNumber(step)];
    if (most.fault || smallest.fault) return;
    save({ ...draft, capacity_g: most.value, step_g: smallest.value ?? 1 });
  };
  const isScale = draft.kind === 'scale';
  return (
    <FormDialog
      title={of ? of.name : 'A scale or thermometer'}
      isSaving={isSaving}
      onSubmit={submit}
      onClose={onClose}
    >
      <Field
        label="Name"
        placeholder="bench"
        value={draft.name}
        onChange={(event) => change({ name: event.target.value })}
        fault={fault('/name')}
      />
      <Choice
        label="What it is"
        options={optionsOf(KINDS)}
        value={draft.kind ?? 'scale'}
        onValue={(kind) => change({ kind })}
      />
      <Choice
        label="How it is reached"
        options={optionsOf(CONNECTIONS)}
        value={draft.connection}
        onValue={(connection) => change({ connection })}
      />
      {draft.connection === 'simulated' ? null : (
        <Choice
          label="How it talks"
          options={optionsOf(TALKS)}
          value={draft.talk ?? 'continuous'}
          onValue={(talk) => change({ talk })}
        />
      )}
      {draft.connection === 'serial' ? (
        <Field
          label="Port"
          placeholder="/dev/ttyUSB0"
          hint={
            ports.data?.length
              ? `Here now: ${ports.data.map((one) => one.path).join(', ')}`
              : 'None is plugged in now.'
          }
          value={draft.port ?? ''}
          onChange={(event) => change({ port: event.target.value })}
          fault={fault('/port')}
        />
      ) : null}
      {draft.connection === 'simulated' ? null : (
        <>
          <Choice
            label="Speed"
            options={BAUDS.map((value) => ({ value, label: `${value} baud` }))}
            value={String(draft.baud)}
            onValue={(baud) => change({ baud: Number(baud) })}
          />
          {isScale ? (
            <Choice
              label="A figure without a unit is in"
              options={optionsOf(UNITS)}
              value={draft.silent_unit ?? 'g'}
              onValue={(silent_unit) => change({ silent_unit })}
            />
          ) : null}
        </>
      )}
      {isScale ? (
        <>
          <Field
            label="Weighs up to"
            unit={massUnit()}
            inputMode="decimal"
            value={capacity}
            onChange={(event) => setCapacity(event.target.value)}
            fault={readWeight(capacity).fault ?? fault('/capacity_g')}
          />
          <Field
            label="In steps of"
            unit="g"
            inputMode="decimal"
            value={step}
            onChange={(event) => setStep(event.target.value)}
            fault={readNumber(step).fault ?? fault('/step_g')}
          />
        </>
      ) : null}
    </FormDialog>
  );
}
