import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useEffect, useState } from 'react';
import type { Problem, Schemas } from '~/api/client';
import { exactGrams, exactWeight, moment, weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { readDraft, useDraft } from '~/lib/use-draft';
import { Button } from '~/parts/button';
import { WeightField } from '~/parts/weight-field';
import type { Change, Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { WhatChanges } from '~/views/batch/weigh/what-changes';
import { settingsQuery } from '~/views/kitchen/queries';

type Component = Plan['components'][number];
/** `names` are the known vessels, lids and foils that its empty weight is made of. */
type VesselDraft = { key: string; gross: string; vessel: string; names: string[]; sum_g: number | null };

const asTyped = (one: Schemas['VesselView']): VesselDraft => ({
  key: crypto.randomUUID(),
  gross: asWeight(one.gross_g),
  vessel: one.vessel_g ? asWeight(one.vessel_g) : '',
  names: [],
  sum_g: null,
});

/** The fields of a weighing, to correct it; one empty vessel for the first. */
const draftOf = (weighing: Component['weighing']) => ({
  vessels: weighing ? weighing.vessels.map(asTyped) : [emptyVessel()],
  removed: weighing?.removed_g ? asWeight(weighing.removed_g) : '',
});

const emptyVessel = (): VesselDraft => ({
  key: crypto.randomUUID(),
  gross: '',
  vessel: '',
  names: [],
  sum_g: null,
});

/** Weigh a finished component: the scale's reading, less its empty vessel; several vessels add up. */
export function WeighIn({
  component,
  closed,
  desk,
  plan,
  shows,
}: {
  component: Component;
  closed: boolean;
  desk: PlanDesk;
  plan: Plan;
  /** What the scale of this tablet shows while it stands still; null while it moves, undefined where there is none. */
  shows?: number | null | undefined;
}) {
  const { weighing } = component;
  const first = `weigh/${component.id}/first`;
  const key = weighing ? `weigh/${component.id}/${weighing.weighed_at}` : first;
  const [correcting, setCorrecting] = useState(() => weighing !== null && readDraft(key) !== null);
  // A weight that comes from elsewhere does not take away what is half typed here.
  const [begun, setBegun] = useState(() => readDraft(first) !== null);
  if (weighing && begun && !closed && !desk.isWaiting(first)) {
    return (
      <WeighForm
        key={first}
        draftKey={first}
        weighing={null}
        component={component}
        desk={desk}
        plan={plan}
        shows={shows}
        meanwhile={`${weighing.weighed_by} recorded ${weight(weighing.cooked_g)} meanwhile. Record yours and both are shown, or leave yours.`}
        onLeave={() => setBegun(false)}
        onTyped={setBegun}
        onDone={() => setBegun(false)}
      />
    );
  }
  if (weighing && !correcting) {
    return (
      <section className="rounded-lg bg-bench p-3">
        <p className="text-sm text-muted">
          Weighed by {weighing.weighed_by}, {moment(weighing.weighed_at)}
        </p>
        <p className="figures text-2xl font-bold">{weight(weighing.cooked_g)}</p>
        <p className="figures text-sm text-muted">
          {weighing.vessels
            .map((one) => `${exactGrams(one.gross_g)}${one.vessel_g ? ` − ${exactGrams(one.vessel_g)}` : ''}`)
            .join(' + ')}
        </p>
        {weighing.removed_g ? (
          <p className="figures text-sm text-muted">− {exactWeight(weighing.removed_g)} bone and skin</p>
        ) : null}
        {component.doubts.length && !closed ? (
          <Causes
            causes={component.doubts}
            onTake={(vessels) =>
              desk.act(() => [
                {
                  kind: 'weigh',
                  component_id: component.id,
                  vessels,
                  removed_g: weighing.removed_g,
                  corrects: true,
                },
              ])
            }
          />
        ) : null}
        {weighing.others?.length ? (
          <Undecided
            readings={[...weighing.others, weighing]}
            onTake={
              closed
                ? null
                : ({ vessels, removed_g }) =>
                    desk.act(() => [
                      { kind: 'weigh', component_id: component.id, vessels, removed_g, corrects: true },
                    ])
            }
          />
        ) : null}
        {closed ? null : (
          <div className="mt-2 flex flex-wrap gap-2">
            <Button onClick={() => setCorrecting(true)}>Correct it</Button>
            <Button
              look="quiet"
              onClick={() => desk.act(() => [{ kind: 'withdraw', component_id: component.id }])}
            >
              Take it back
            </Button>
          </div>
        )}
      </section>
    );
  }
  if (closed) return null;
  return (
    <WeighForm
      key={key}
      draftKey={key}
      weighing={weighing}
      component={component}
      desk={desk}
      plan={plan}
      shows={shows}
      onTyped={weighing ? undefined : setBegun}
      onDone={() => {
        setCorrecting(false);
        setBegun(false);
      }}
    />
  );
}

/** Weights of one pot by helpers who did not know of each other: the later one counts until somebody chooses. */
function Undecided({
  readings,
  onTake,
}: {
  readings: Schemas['PotReading'][];
  onTake: ((chosen: Schemas['PotReading']) => void) | null;
}) {
  return (
    <div className="mt-2 rounded-lg border-l-4 border-l-alert bg-sheet px-3 py-2 text-sm">
      <p className="font-semibold">Weighed more than once. Which is right?</p>
      <ul aria-label="Weights of this pot" className="space-y-2">
        {readings.map((one) => (
          <li key={one.weighed_at + one.cooked_g}>
            <span className="figures font-bold">{exactWeight(one.cooked_g)}</span>{' '}
            <span className="text-muted">
              {one.weighed_by}, {moment(one.weighed_at)}
            </span>
            {onTake ? (
              <Button className="mt-1 !min-h-9 w-full" onClick={() => onTake(one)}>
                {exactWeight(one.cooked_g)} is right
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** What may be behind an unlikely weight, the best explanation first; one tap records it without the slip. */
function Causes({
  causes,
  onTake,
}: {
  causes: Component['doubts'];
  onTake: (vessels: Schemas['VesselView'][]) => void;
}) {
  return (
    <div className="mt-2 rounded-lg border-l-4 border-l-alert bg-sheet px-3 py-2 text-sm">
      <p className="font-semibold">Outside what this pan should give. It may be:</p>
      <ol className="list-decimal pl-5">
        {causes.slice(0, 4).map((cause) => (
          <li key={cause.words} className="mt-1">
            {cause.words}
            {cause.vessels ? (
              <Button
                className="mt-1 !min-h-9 w-full !whitespace-normal"
                onClick={() => onTake(cause.vessels ?? [])}
              >
                Record it so
              </Button>
            ) : null}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** A weight within these shares of what is expected is worth asking what it changes. */
const LIKELY_FROM = 0.5;
const LIKELY_TO = 1.6;

function WeighForm({
  draftKey,
  weighing,
  component,
  desk,
  plan,
  shows,
  meanwhile,
  onLeave,
  onTyped,
  onDone,
}: {
  /** What was typed for this weighing survives a reload under it. */
  draftKey: string;
  /** The weight that is corrected; null where whoever weighs has seen none. */
  weighing: Component['weighing'];
  component: Component;
  desk: PlanDesk;
  plan: Plan;
  shows: number | null | undefined;
  /** What came from elsewhere while this was typed. */
  meanwhile?: string;
  onLeave?: () => void;
  onTyped?: ((typed: boolean) => void) | undefined;
  onDone: () => void;
}) {
  const [{ vessels, removed }, setDraft, forget] = useDraft(draftKey, () => draftOf(weighing));
  const hasTyped = removed !== '' || vessels.some((one) => one.gross !== '' || one.vessel !== '');
  useEffect(() => onTyped?.(hasTyped), [onTyped, hasTyped]);
  const setVessels = (next: (now: VesselDraft[]) => VesselDraft[]) =>
    setDraft((now) => ({ ...now, vessels: next(now.vessels) }));
  const [problem, setProblem] = useState<Problem | null>(null);
  const typed = vessels.map((one) => ({ gross: readWeight(one.gross), vessel: readWeight(one.vessel) }));
  const off = readWeight(removed);
  // A sum is read by the server, so its net is shown once it was left.
  const plain = (value: number | string | null) => (typeof value === 'string' ? Number.NaN : (value ?? 0));
  const net =
    typed.reduce(
      (sum, one, place) => sum + (vessels[place]?.sum_g ?? plain(one.gross.value)) - plain(one.vessel.value),
      0,
    ) - plain(off.value);
  const change = (place: number, part: Partial<VesselDraft>) => {
    setProblem(null);
    setVessels((now) => now.map((one, at) => (at === place ? { ...one, ...part } : one)));
  };
  const faultAt = (pointer: string) => problem?.errors?.find((one) => one.pointer === pointer)?.message;
  const fault = (place: number, field: 'gross' | 'vessel') =>
    typed[place]?.[field].fault ?? faultAt(`/changes/0/vessels/${place}/${field}_g`);
  const isWhole =
    !off.fault && typed.every((one) => one.gross.value !== null && !one.gross.fault && !one.vessel.fault);
  // A weight that is still being typed says nothing yet.
  const isLikely =
    !Number.isNaN(net) &&
    net >= LIKELY_FROM * component.cooked_low_g &&
    net <= LIKELY_TO * component.cooked_high_g;
  const wished: Change | null =
    isWhole && isLikely
      ? {
          kind: 'weigh',
          component_id: component.id,
          vessels: typed.map((one) => ({ gross_g: one.gross.value ?? 0, vessel_g: one.vessel.value ?? 0 })),
          removed_g: off.value ?? 0,
          corrects: weighing !== null,
        }
      : null;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (off.fault || typed.some((one) => one.gross.fault || one.vessel.fault)) return;
    const body = typed.map((one) => ({ gross_g: one.gross.value ?? 0, vessel_g: one.vessel.value ?? 0 }));
    const refused = await desk.change(
      () => [
        {
          kind: 'weigh',
          component_id: component.id,
          vessels: body,
          removed_g: off.value ?? 0,
          corrects: weighing !== null,
        },
      ],
      draftKey,
    );
    setProblem(refused?.type === 'invalid' ? refused : null);
    if (refused) return;
    forget();
    onDone();
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="rounded-lg bg-bench p-3">
      <h3 className="mb-2 text-lg">Weigh what came out</h3>
      {meanwhile ? <p className="mb-2 text-sm">{meanwhile}</p> : null}
      {vessels.map((one, place) => (
        <div key={one.key} className="mb-2 grid grid-cols-2 gap-2">
          <WeightField
            label={place ? `On the scale, ${place + 1}` : 'On the scale'}
            value={one.gross}
            onText={(gross) => change(place, { gross })}
            onSum={(sum_g) =>
              setVessels((now) => now.map((other, at) => (at === place ? { ...other, sum_g } : other)))
            }
            fault={fault(place, 'gross')}
          />
          <WeightField
            label={place ? `Empty vessel, ${place + 1}` : 'Empty vessel'}
            placeholder="0"
            value={one.vessel}
            onText={(vessel) => change(place, { vessel, names: [] })}
            fault={fault(place, 'vessel')}
          />
        </div>
      ))}
      <p className="mb-2 flex items-baseline justify-between">
        <button
          type="button"
          className="min-h-9 text-sm underline"
          onClick={() => setVessels((now) => [...now, emptyVessel()])}
        >
          Another vessel
        </button>
        <span>
          net{' '}
          <span className="figures text-xl font-bold">
            {Number.isNaN(net) ? 'as typed' : exactWeight(net)}
          </span>
        </span>
      </p>
      {shows === undefined ? null : (
        <div className="mb-2 grid grid-cols-2 gap-2">
          {(['Full', 'Empty'] as const).map((which) => (
            <Button
              key={which}
              className="min-h-16"
              disabled={shows === null}
              onClick={() => {
                const text = asWeight(shows);
                change(
                  vessels.length - 1,
                  which === 'Full' ? { gross: text, sum_g: null } : { vessel: text, names: [] },
                );
              }}
            >
              {which}: {shows === null ? 'it moves' : exactWeight(shows)}
            </Button>
          ))}
        </div>
      )}
      <KnownVessels
        chosen={vessels.at(-1)?.names ?? []}
        onPick={(names, empty) =>
          change(vessels.length - 1, { names, vessel: names.length ? asWeight(empty) : '' })
        }
      />
      {component.left_on_g > 0 ? (
        <div className="mb-2">
          <WeightField
            label="Bone and skin taken off after"
            placeholder={`about ${exactWeight(component.left_on_g)}`}
            value={removed}
            onText={(text) => setDraft((now) => ({ ...now, removed: text }))}
            fault={off.fault ?? faultAt('/changes/0/removed_g')}
          />
        </div>
      ) : null}
      {problem && !problem.errors?.some((one) => /vessels\/\d/.test(one.pointer)) ? (
        <p role="alert" className="mb-2 text-sm font-medium text-alert">
          {problem.detail}
        </p>
      ) : null}
      {problem?.mends?.length ? (
        <ul className="mb-2 space-y-1 text-sm">
          {problem.mends.slice(0, 3).map((mend) => (
            <li key={mend.words}>
              <Button
                className="!min-h-9 w-full !whitespace-normal"
                onClick={() => {
                  setProblem(null);
                  setVessels(() => mend.vessels.map(asTyped));
                }}
              >
                {mend.words}
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      <Button type="submit" look="main" className="w-full" disabled={desk.busy}>
        Record the weight
      </Button>
      {/* Below what is pressed: what comes in later must not move it away from under a finger. */}
      <WhatChanges plan={plan} change={wished} />
      {onLeave ? (
        <Button
          look="quiet"
          className="mt-1 w-full"
          onClick={() => {
            forget();
            onLeave();
          }}
        >
          Leave mine
        </Button>
      ) : null}
    </form>
  );
}

/** The kitchen's own pans, lids and foils by name: a tap takes one off, several add up, a second tap puts it back. */
function KnownVessels({
  chosen,
  onPick,
}: {
  chosen: string[];
  onPick: (names: string[], emptyGrams: number) => void;
}) {
  const settings = useQuery(settingsQuery);
  const vessels = settings.data?.vessels ?? [];
  // The room of a line is kept while they come: what is below must not move away from under a finger.
  if (settings.isPending) return <p aria-hidden className="mb-2 min-h-9" />;
  if (vessels.length === 0) return null;
  return (
    <p className="mb-2 flex flex-wrap gap-1">
      {vessels.map((one) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={chosen.includes(one.name)}
          onClick={() => {
            const names = chosen.includes(one.name)
              ? chosen.filter((name) => name !== one.name)
              : [...chosen, one.name];
            const off = vessels.filter(({ name }) => names.includes(name));
            onPick(
              names,
              off.reduce((sum, { empty_g }) => sum + empty_g, 0),
            );
          }}
          className="min-h-11 rounded-lg border border-steel bg-sheet px-2 text-sm hover:border-edge aria-pressed:border-2 aria-pressed:border-ink aria-pressed:font-bold"
        >
          {one.name} <span className="figures text-muted">{exactWeight(one.empty_g)}</span>
        </button>
      ))}
    </p>
  );
}
