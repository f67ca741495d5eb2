import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { forgetFigures } from '~/api/query-client';
import { sessionQuery } from '~/api/session';
import { CARBOHYDRATES, ENERGY_RULES } from '~/food/energy-words';
import { MacroName, macroFigure } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { deviceName, LONGEST_DEVICE_NAME, nameDevice } from '~/lib/device';
import { faultFinder } from '~/lib/faults';
import { plural } from '~/lib/format';
import { asText, asWeight, readNumber, readWeight } from '~/lib/numbers';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Choice, optionsOf, Toggles } from '~/parts/choice';
import { Field, Tick } from '~/parts/field';
import { LoadFailed, Loading, ProblemNotice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { WeightField } from '~/parts/weight-field';
import { CalendarFeed } from '~/views/kitchen/calendar';
import { Devices } from '~/views/kitchen/devices';
import { Instruments } from '~/views/kitchen/instruments';
import { KitchenList } from '~/views/kitchen/kitchen-list';
import { type Rules, settingsQuery, switchQuery } from '~/views/kitchen/queries';

const SPOONS = [
  { value: 'metric', label: 'metric: cup 250, tablespoon 15 ml' },
  { value: 'us', label: 'US: cup 236.6, tablespoon 14.8 ml' },
  { value: 'australian', label: 'Australian: cup 250, tablespoon 20 ml' },
  { value: 'imperial', label: 'imperial: cup 284, tablespoon 17.8 ml' },
] as const;

const SHELF_RULES: { value: Schemas['ShelfRule']; label: string }[] = [
  { value: 'cautious', label: 'cautious: cooked food 3, fish 2, rice 1' },
  { value: 'usual', label: 'customary: cooked food 4, fish and rice 3' },
];

/** Every time zone or currency that the browser knows. */
const known = (what: 'timeZone' | 'currency') =>
  Intl.supportedValuesOf(what).map((value) => ({ value, label: value }));

const DAILY_AIMS = [
  { key: 'produce_g', label: 'Vegetables and fruit, at least', unit: 'g' },
  { key: 'fibre_g', label: 'Fibre, at least', unit: 'g' },
  { key: 'potassium_mg', label: 'Potassium, at least', unit: 'mg' },
  { key: 'sodium_mg', label: 'Sodium, at most', unit: 'mg' },
] as const;

type AimDraft = Record<(typeof DAILY_AIMS)[number]['key'], string>;

const aimDraft = (aims: Schemas['DailyAimsView']): AimDraft => ({
  produce_g: asText(aims.produce_g),
  fibre_g: asText(aims.fibre_g),
  potassium_mg: asText(aims.potassium_mg),
  sodium_mg: asText(aims.sodium_mg),
});

const asPercent = (share: number | null) => asText(share === null ? null : Math.round(share * 1e4) / 100);
const ofPercent = (percent: number | null) => (percent === null ? null : percent / 100);

type VesselDraft = { key: string; id: string | null; name: string; empty: string; capacity: string };

export function SettingsPage() {
  const settings = useQuery(settingsQuery);
  const account = useQuery(sessionQuery);
  if (settings.isError) return <LoadFailed error={settings.error} retry={() => void settings.refetch()} />;
  if (!settings.data || !account.data) return <Loading what="the settings" />;
  return (
    <Page title="Settings" detail={settings.data.workspace}>
      <div className="grid items-start gap-6 lg:grid-cols-[minmax(0,1fr)_320px]">
        <KitchenForm settings={settings.data} />
        <div className="min-w-0 space-y-6">
          <PersonForm account={account.data} />
          <DeviceForm />
        </div>
      </div>
      <KitchenList />
      <Instruments />
      <Devices />
      <CalendarFeed />
    </Page>
  );
}

function KitchenForm({ settings }: { settings: Schemas['SettingsView'] }) {
  const queries = useQueryClient();
  const [spoons, setSpoons] = useState(settings.spoons as Schemas['WorkspaceInput']['spoons']);
  const [rules, setRules] = useState<Rules>({
    energy_rule: settings.energy_rule as Rules['energy_rule'],
    carbohydrate: settings.carbohydrate as Rules['carbohydrate'],
  });
  const [shelfRule, setShelfRule] = useState(settings.shelf_rule);
  const [zone, setZone] = useState(settings.time_zone ?? '');
  const [currency, setCurrency] = useState(settings.currency ?? '');
  const [mostLeft, setMostLeft] = useState(asPercent(settings.most_left_share));
  const [free, setFree] = useState(settings.free_foods);
  const [aims, setAims] = useState<AimDraft>(() => aimDraft(settings.daily_aims));
  const [vessels, setVessels] = useState<VesselDraft[]>(() => settings.vessels.map(vesselDraft));
  const switched = rules.energy_rule !== settings.energy_rule || rules.carbohydrate !== settings.carbohydrate;
  const local = new Map<string, string>();
  const weight = (pointer: string, text: string) => {
    const { value, fault } = readWeight(text);
    if (fault) local.set(pointer, fault);
    return value;
  };
  const number = (pointer: string, text: string) => {
    const { value, fault } = readNumber(text);
    if (fault) local.set(pointer, fault);
    return value;
  };
  const body: Schemas['WorkspaceInput'] = {
    spoons,
    ...rules,
    shelf_rule: shelfRule,
    time_zone: zone || null,
    currency: currency || null,
    most_left_share: ofPercent(number('/most_left_share', mostLeft)),
    free_foods: free,
    daily_aims: Object.fromEntries(
      DAILY_AIMS.map(({ key }) => [key, number(`/daily_aims/${key}`, aims[key])]),
    ),
    vessels: vessels.map((one, at) => ({
      id: one.id,
      name: one.name,
      empty_g: weight(`/vessels/${at}/empty_g`, one.empty) ?? 0,
      capacity_g: weight(`/vessels/${at}/capacity_g`, one.capacity),
    })),
  };
  const save = useMutation({
    mutationFn: () =>
      write(call('put', '/api/v1/settings', { body }), {
        about: 'settings',
        words: ['Settings of the kitchen'],
        href: '/settings',
      }),
    onSuccess: (fresh) => {
      queries.setQueryData(settingsQuery.queryKey, fresh);
      setVessels(fresh.vessels.map(vesselDraft));
      setAims(aimDraft(fresh.daily_aims));
      void queries.invalidateQueries({ queryKey: sessionQuery.queryKey });
      forgetFigures(queries);
      toast.success('Settings are saved.');
    },
  });
  const problem = save.isError ? toProblem(save.error) : null;
  const fault = faultFinder(local, problem);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (local.size === 0) save.mutate();
  };
  const change = (at: number, part: Partial<VesselDraft>) =>
    setVessels(vessels.map((one, here) => (here === at ? { ...one, ...part } : one)));
  return (
    <form
      onSubmit={submit}
      noValidate
      className="min-w-0 space-y-6 rounded-xl border border-steel bg-sheet p-5"
    >
      <section>
        <h2 className="mb-2 text-xl">The kitchen</h2>
        {problem ? (
          <div className="mb-3">
            <ProblemNotice problem={problem} placed={problem.errors?.map((one) => one.pointer) ?? []} />
          </div>
        ) : null}
        <div className="grid gap-3 sm:grid-cols-2">
          <Choice
            label="Energy"
            value={rules.energy_rule}
            options={optionsOf(ENERGY_RULES)}
            onValue={(chosen) => setRules({ ...rules, energy_rule: chosen })}
          />
          <Choice
            label="Carbohydrate means"
            value={rules.carbohydrate}
            options={optionsOf(CARBOHYDRATES)}
            onValue={(chosen) => setRules({ ...rules, carbohydrate: chosen })}
          />
          <Choice label="Cups and spoons" value={spoons} options={SPOONS} onValue={setSpoons} />
          <Choice label="Days in the fridge" value={shelfRule} options={SHELF_RULES} onValue={setShelfRule} />
          <Choice
            label="Time zone"
            value={zone}
            options={[{ value: '', label: 'not set: that of each device' }, ...known('timeZone')]}
            onValue={setZone}
            fault={fault('/time_zone')}
          />
          <Choice
            label="Currency"
            value={currency}
            options={[{ value: '', label: 'not set: prices are bare numbers' }, ...known('currency')]}
            onValue={setCurrency}
            fault={fault('/currency')}
          />
          <Field
            label="Left over of packs, at most"
            unit="%"
            hint="Of what is needed. Empty, and the least cost decides."
            inputMode="decimal"
            value={mostLeft}
            onChange={(event) => setMostLeft(event.target.value)}
            fault={fault('/most_left_share')}
          />
        </div>
        {switched ? <SwitchPreview rules={rules} /> : null}
      </section>
      <fieldset>
        <legend className="font-medium">Counted as free</legend>
        <p className="text-sm text-muted">
          Their macros are left out, and each component says how many kcal that is.
        </p>
        <div className="grid sm:grid-cols-3">
          {Object.entries(settings.free_kinds).map(([kind, words]) => (
            <Tick
              key={kind}
              label={words}
              checked={free.includes(kind)}
              onChange={(on) => setFree(on ? [...free, kind] : free.filter((one) => one !== kind))}
            />
          ))}
        </div>
      </fieldset>
      <fieldset>
        <legend className="font-medium">A whole day</legend>
        <p className="mb-2 text-sm text-muted">
          What you aim at for everybody’s day, beside its own figures. Vegetables and fruit count raw, without
          what is trimmed. An empty field aims at nothing.
        </p>
        <div className="grid gap-2 sm:grid-cols-2">
          {DAILY_AIMS.map(({ key, label, unit }) => (
            <Field
              key={key}
              label={label}
              unit={unit}
              inputMode="decimal"
              value={aims[key]}
              onChange={(event) => setAims({ ...aims, [key]: event.target.value })}
              fault={fault(`/daily_aims/${key}`)}
            />
          ))}
        </div>
      </fieldset>
      <fieldset>
        <legend className="font-medium">Pans, trays and bowls</legend>
        <p className="mb-2 text-sm text-muted">
          With their empty weight, a pan that was not taken off is recognised on the scale.
        </p>
        {vessels.map((one, at) => (
          <div key={one.key} className="mb-2 grid grid-cols-[1fr_140px_140px_auto] items-start gap-2">
            <Field
              label={at ? `Vessel ${at + 1}` : 'Vessel'}
              value={one.name}
              placeholder="roasting tray, large"
              onChange={(event) => change(at, { name: event.target.value })}
              fault={fault(`/vessels/${at}/name`)}
            />
            <WeightField
              label="Empty"
              value={one.empty}
              onText={(empty) => change(at, { empty })}
              fault={fault(`/vessels/${at}/empty_g`)}
            />
            <WeightField
              label="Holds, raw"
              value={one.capacity}
              onText={(capacity) => change(at, { capacity })}
              fault={fault(`/vessels/${at}/capacity_g`)}
            />
            <Button
              look="quiet"
              className="mt-6"
              aria-label={`Remove ${one.name || `vessel ${at + 1}`}`}
              onClick={() => setVessels(vessels.filter((_, here) => here !== at))}
            >
              ×
            </Button>
          </div>
        ))}
        <Button
          onClick={() =>
            setVessels([
              ...vessels,
              { key: crypto.randomUUID(), id: null, name: '', empty: '', capacity: '' },
            ])
          }
        >
          Add a vessel
        </Button>
      </fieldset>
      <Button type="submit" look="main" disabled={save.isPending || local.size > 0}>
        {switched ? 'Switch and save' : 'Save the kitchen’s settings'}
      </Button>
    </form>
  );
}

const vesselDraft = (one: Schemas['KitchenVesselView']): VesselDraft => ({
  key: one.id,
  id: one.id,
  name: one.name,
  empty: asWeight(one.empty_g),
  capacity: asWeight(one.capacity_g),
});

/** What the switch changes everywhere, before it is accepted. */
function SwitchPreview({ rules }: { rules: Rules }) {
  const found = useQuery(switchQuery(rules));
  if (found.isError) return <LoadFailed error={found.error} retry={() => void found.refetch()} />;
  if (!found.data) return <Loading what="what changes" />;
  return (
    <section aria-label="What the switch changes" className="mt-4 rounded-lg bg-bench p-3">
      <h3 className="text-base">
        {found.data.length
          ? `The switch changes ${plural(found.data.length, 'line')}`
          : 'The switch changes no figure of your recipes and open batches'}
      </h3>
      <p className="text-sm text-muted">
        100 g of components, and containers at the grams they are planned with now. Packed batches keep their
        figures; targets keep their numbers, so open plans are solved anew.
      </p>
      <div className="mt-2">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-right text-muted">
              <th className="py-1 text-left font-medium">Before and after</th>
              {MACRO_KEYS.map((key) => (
                <th key={key} className="py-1 font-medium">
                  <MacroName of={key} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.data.map((one) => (
              <tr key={one.kind + one.name} className="border-t border-steel">
                <th scope="row" className="py-1 text-left font-normal">
                  {one.name} <span className="text-muted">{one.kind === 'component' ? '100 g' : ''}</span>
                </th>
                {MACRO_KEYS.map((key) => {
                  const [before, after] = [macroFigure(one.before, key), macroFigure(one.after, key)];
                  return (
                    <td key={key} className="figures py-1 text-right whitespace-nowrap">
                      {before === after ? (
                        <span className="text-muted">{after}</span>
                      ) : (
                        <>
                          <s className="text-muted">{before}</s> <strong>{after}</strong>
                        </>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function PersonForm({ account }: { account: Schemas['AccountView'] }) {
  const [person, setPerson] = useState({
    mass_unit: account.mass_unit as Schemas['PersonInput']['mass_unit'],
    temperature_unit: account.temperature_unit as Schemas['PersonInput']['temperature_unit'],
    energy_unit: account.energy_unit as Schemas['PersonInput']['energy_unit'],
  });
  const save = useMutation({
    mutationFn: () =>
      write(call('put', '/api/v1/person', { body: person }), {
        about: 'person',
        words: ['How figures are shown to you'],
        href: '/settings',
      }),
    // Every figure on every view changes with it.
    onSuccess: () => window.location.reload(),
    onError: showProblem,
  });
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
      className="min-w-0 space-y-3 rounded-xl border border-steel bg-sheet p-5"
    >
      <h2 className="text-xl">For {account.name}</h2>
      <p className="text-sm text-muted">How figures are shown to you. What is stored stays metric.</p>
      <Toggles
        label="Weights"
        value={person.mass_unit}
        options={[
          { value: 'g', label: 'grams' },
          { value: 'oz', label: 'ounces' },
        ]}
        onValue={(chosen) => setPerson({ ...person, mass_unit: chosen })}
      />
      <Toggles
        label="Temperatures"
        value={person.temperature_unit}
        options={[
          { value: 'C', label: 'Celsius' },
          { value: 'F', label: 'Fahrenheit' },
        ]}
        onValue={(chosen) => setPerson({ ...person, temperature_unit: chosen })}
      />
      <Toggles
        label="Energy"
        value={person.energy_unit}
        options={[
          { value: 'kcal', label: 'kilocalories' },
          { value: 'kJ', label: 'kilojoules' },
        ]}
        onValue={(chosen) => setPerson({ ...person, energy_unit: chosen })}
      />
      <Button type="submit" look="main" disabled={save.isPending}>
        Save
      </Button>
    </form>
  );
}

function DeviceForm() {
  const [name, setName] = useState(deviceName);
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        nameDevice(name);
        setName(deviceName());
        toast.success('This device has its name.');
      }}
      className="space-y-3 rounded-xl border border-steel bg-sheet p-5"
    >
      <h2 className="text-xl">This device</h2>
      <Field
        label="Called"
        hint="The history of a batch says where a change was made: kitchen tablet, phone of the stall."
        value={name}
        maxLength={LONGEST_DEVICE_NAME}
        onChange={(event) => setName(event.target.value)}
      />
      <Button type="submit" look="main">
        Name it
      </Button>
    </form>
  );
}
