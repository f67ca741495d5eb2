import { type FormEvent, useEffect, useState } from 'react';
import type { Problem, Schemas } from '~/api/client';
import { exactGrams, exactWeight, moment, weight } from '~/lib/format';
import { asWeight, readWeight } from '~/lib/numbers';
import { readDraft, useDraft } from '~/lib/use-draft';
import { Button } from '~/parts/button';
import { WeightField } from '~/parts/weight-field';
import type { Change, Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { KnownVessels } from '~/views/batch/weigh/known-vessels';
import { LateParts, Parts, partsOf, sumOf } from '~/views/batch/weigh/parts';
import { Causes, Undecided } from '~/views/batch/weigh/readings';
import { WhatChanges } from '~/views/batch/weigh/what-changes';

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

/** The fields of a weighing, to correct it; one empty vessel for the first, beside the parts that were weighed before. */
const draftOf = (weighing: Component['weighing']) => ({
  isWhole: weighing !== null,
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
        {closed ? null : <LateParts component={component} desk={desk} />}
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
                  with_parts: false,
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
                      {
                        kind: 'weigh',
                        component_id: component.id,
                        vessels,
                        removed_g,
                        corrects: true,
                        with_parts: false,
                      },
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
  const [{ vessels, removed, isWhole: hasAll }, setDraft, forget] = useDraft(draftKey, () =>
    draftOf(weighing),
  );
  const hasTyped = removed !== '' || vessels.some((one) => one.gross !== '' || one.vessel !== '');
  useEffect(() => onTyped?.(hasTyped), [onTyped, hasTyped]);
  const setVessels = (next: (now: VesselDraft[]) => VesselDraft[]) =>
    setDraft((now) => ({ ...now, vessels: next(now.vessels) }));
  const [problem, setProblem] = useState<Problem | null>(null);
  const typed = vessels.map((one) => ({ gross: readWeight(one.gross), vessel: readWeight(one.vessel) }));
  const off = readWeight(removed);
  // A sum is read by the server, so its net is shown once it was left.
  const plain = (value: number | string | null) => (typeof value === 'string' ? Number.NaN : (value ?? 0));
  // The parts of the pot that were on the scale before count too, unless all of it is typed here.
  const with_parts = !hasAll && partsOf(component).length > 0;
  const partsG = with_parts ? sumOf(partsOf(component)) : 0;
  const net =
    partsG +
    typed.reduce(
      (sum, one, place) => sum + (vessels[place]?.sum_g ?? plain(one.gross.value)) - plain(one.vessel.value),
      0,
    ) -
    plain(off.value);
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
          with_parts,
        }
      : null;
  const keepPart = async () => {
    const [one] = typed;
    if (!one) return;
    const vessel = { gross_g: one.gross.value ?? 0, vessel_g: one.vessel.value ?? 0 };
    const refused = await desk.change(
      () => [{ kind: 'weigh-part', component_id: component.id, vessel }],
      draftKey,
    );
    setProblem(refused?.type === 'invalid' ? refused : null);
    if (!refused) forget();
  };
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
          with_parts,
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
      {hasAll ? null : <Parts component={component} desk={desk} />}
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
                  setDraft((now) => ({ ...now, isWhole: true, vessels: mend.vessels.map(asTyped) }));
                }}
              >
                {mend.words}
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      <Button type="submit" look="main" className="min-h-16 w-full" disabled={desk.busy}>
        Record the weight
      </Button>
      {hasAll ? null : (
        <Button
          className="mt-2 min-h-16 w-full"
          disabled={desk.busy || !isWhole || vessels.length > 1}
          onClick={() => void keepPart()}
        >
          A part of it: the rest comes later
        </Button>
      )}
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
