import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { type Instrument, instrumentsQuery, useReadings } from '~/devices/use-scale';
import { exactNumber, exactWeight, weight } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf } from '~/parts/choice';
import { Field, Tick } from '~/parts/field';
import { LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';

type Pan = Schemas['PanView'];

const THINGS = [
  { name: 'Small container', grams: 180 },
  { name: 'Large container', grams: 312 },
  { name: 'Lid', grams: 64 },
  { name: 'Pot', grams: 1480 },
];
const SPOONFULS = [5, 20, 60, 120];
const UNITS = { g: 'grams', kg: 'kilograms', oz: 'ounces', lb: 'pounds' } as const;
const HAND_G = 420;

/** A simulated scale or thermometer: what is put on its pan is read on the tablets that have chosen it. */
export function SimulatedPage() {
  const { instrumentId } = useParams({ from: '/inside/scales/$instrumentId' });
  const instruments = useQuery(instrumentsQuery);
  const pan = useQuery(panQuery(instrumentId));
  const failed = [instruments, pan].find((one) => one.isError);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  const instrument = instruments.data?.find((one) => one.id === instrumentId);
  if (instruments.data && !instrument)
    return (
      <div className="p-8">
        <Notice tone="alert" title="This scale is put away">
          <p>Add one in the settings.</p>
        </Notice>
      </div>
    );
  if (!instrument || !pan.data) return <Loading what="the scale" />;
  return (
    <Page
      title={`${instrument.name}, simulated`}
      detail="What is put on it here is read on the tablets that have chosen it."
    >
      <div className="grid items-start gap-6 lg:grid-cols-2">
        <Readout instrument={instrument} />
        {instrument.kind === 'scale' ? (
          <ScalePan instrument={instrument} pan={pan.data} />
        ) : (
          <Probe instrument={instrument} pan={pan.data} />
        )}
      </div>
    </Page>
  );
}

const panQuery = (id: string) => ({
  queryKey: ['instruments', id, 'pan'],
  queryFn: () =>
    ask(api.GET('/api/v1/instruments/{instrument_id}/pan', { params: { path: { instrument_id: id } } })),
});

/** Put something else on the pan; what it shows follows. */
function usePan(instrument: Instrument, pan: Pan) {
  const queries = useQueryClient();
  const { queryKey } = panQuery(instrument.id);
  const put = useMutation({
    mutationFn: (body: Pan) =>
      write(
        call('put', '/api/v1/instruments/{instrument_id}/pan', {
          params: { path: { instrument_id: instrument.id } },
          body,
        }),
        {
          about: `pan ${instrument.id}`,
          words: [`${instrument.name}: the pan`],
          href: `/scales/${instrument.id}`,
        },
      ),
    onMutate: (body) => queries.setQueryData(queryKey, body),
    onError: (error) => {
      showProblem(error);
      void queries.invalidateQueries({ queryKey });
    },
  });
  return (part: Partial<Pan>) => put.mutate({ ...(queries.getQueryData<Pan>(queryKey) ?? pan), ...part });
}

function Readout({ instrument }: { instrument: Instrument }) {
  const { reading, isLost } = useReadings(instrument);
  const value = reading?.value ?? null;
  const figure =
    reading?.state === 'overload'
      ? 'OL'
      : value === null
        ? '––––'
        : instrument.kind === 'scale'
          ? exactWeight(value)
          : `${exactNumber(value)} °C`;
  return (
    <section aria-label="Reading" className="rounded-xl border-2 border-ink bg-sheet p-5">
      <p className="figures text-right text-7xl font-bold" data-testid="reading">
        {isLost ? '––––' : figure}
      </p>
      <p role="status" className="mt-2 text-right text-muted">
        {isLost ? 'silent' : reading?.is_steady ? 'stands still' : 'moves'}
        {reading?.battery_low ? ', battery low' : ''}
      </p>
      {instrument.kind === 'scale' ? <Keys instrument={instrument} /> : null}
    </section>
  );
}

function Keys({ instrument }: { instrument: Instrument }) {
  const params = { params: { path: { instrument_id: instrument.id } } };
  const press = (key: 'tare' | 'zero') =>
    ask(api.POST(`/api/v1/instruments/{instrument_id}/${key}`, params)).catch(showProblem);
  return (
    <div className="mt-4 flex gap-3">
      <Button className="min-h-16 flex-1" onClick={() => void press('tare')}>
        Tare
      </Button>
      <Button className="min-h-16 flex-1" onClick={() => void press('zero')}>
        Zero
      </Button>
    </div>
  );
}

function ScalePan({ instrument, pan }: { instrument: Instrument; pan: Pan }) {
  const change = usePan(instrument, pan);
  const [typed, setTyped] = useState('');
  const things = Object.entries(pan.things);
  const add = (name: string, grams: number) => {
    let key = name;
    for (let number = 2; key in pan.things; number += 1) key = `${name} ${number}`;
    change({ things: { ...pan.things, [key]: grams } });
  };
  const without = (name: string) =>
    change({ things: Object.fromEntries(things.filter(([one]) => one !== name)) });
  const grams = readNumber(typed);
  return (
    <div className="space-y-5">
      <section aria-labelledby="on-pan">
        <h2 id="on-pan" className="mb-2 text-lg">
          On the pan
        </h2>
        {things.length === 0 ? <p className="text-muted">Nothing.</p> : null}
        <ul className="flex flex-wrap gap-2">
          {things.map(([name, g]) => (
            <li key={name}>
              <Button onClick={() => without(name)} aria-label={`Take ${name} off`}>
                {name} <span className="figures">{weight(g)}</span> <span aria-hidden>×</span>
              </Button>
            </li>
          ))}
          {things.length ? (
            <li>
              <Button look="quiet" onClick={() => change({ things: {} })}>
                Take all off
              </Button>
            </li>
          ) : null}
        </ul>
      </section>
      <section aria-labelledby="put-on">
        <h2 id="put-on" className="mb-2 text-lg">
          Put on
        </h2>
        <div className="flex flex-wrap gap-2">
          {THINGS.map((one) => (
            <Button key={one.name} onClick={() => add(one.name, one.grams)}>
              {one.name} {weight(one.grams)}
            </Button>
          ))}
          {SPOONFULS.map((one) => (
            <Button key={one} onClick={() => add('Spoonful', one)}>
              Spoonful {weight(one)}
            </Button>
          ))}
        </div>
        <form
          className="mt-2 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (grams.value) add('Spoonful', grams.value);
            setTyped('');
          }}
        >
          <Field
            label="Or so much"
            unit="g"
            inputMode="decimal"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            fault={grams.fault ?? undefined}
          />
          <Button type="submit">Put on</Button>
        </form>
      </section>
      <section aria-labelledby="wrong" className="space-y-2">
        <h2 id="wrong" className="text-lg">
          What is wrong with it
        </h2>
        <Tick
          label="A hand leans on it"
          checked={pan.hand_g > 0}
          onChange={(on) => change({ hand_g: on ? HAND_G : 0 })}
        />
        <Tick
          label="It trembles"
          checked={pan.noise_g > 0}
          onChange={(on) => change({ noise_g: on ? 4 : 0 })}
        />
        <Tick
          label="It wanders"
          checked={pan.drift_g_min > 0}
          onChange={(on) => change({ drift_g_min: on ? 30 : 0 })}
        />
        <Tick
          label="It never says that it stands still"
          checked={pan.is_restless}
          onChange={(is_restless) => change({ is_restless })}
        />
        <Tick
          label="Its plug is out"
          checked={pan.is_silent}
          onChange={(is_silent) => change({ is_silent })}
        />
        <Tick
          label="Its battery is low"
          checked={pan.battery_low}
          onChange={(battery_low) => change({ battery_low })}
        />
        <div className="grid grid-cols-2 items-end gap-4">
          <Choice
            label="It is set to"
            options={optionsOf(UNITS)}
            value={pan.unit}
            onValue={(unit) => change({ unit })}
          />
          <Tick
            label="and prints the unit"
            checked={pan.says_unit}
            onChange={(says_unit) => change({ says_unit })}
          />
        </div>
      </section>
    </div>
  );
}

function Probe({ instrument, pan }: { instrument: Instrument; pan: Pan }) {
  const change = usePan(instrument, pan);
  return (
    <section aria-labelledby="probe" className="space-y-3">
      <h2 id="probe" className="text-lg">
        The probe is in
      </h2>
      <div className="flex flex-wrap gap-2">
        {[4, 20, 58, 71, 75, 82].map((celsius) => (
          <Button key={celsius} onClick={() => change({ celsius })} aria-pressed={pan.celsius === celsius}>
            something of {celsius} °C
          </Button>
        ))}
        <Button onClick={() => change({ celsius: null })}>nothing: it is not plugged in</Button>
      </div>
      <Tick label="Its plug is out" checked={pan.is_silent} onChange={(is_silent) => change({ is_silent })} />
    </section>
  );
}
