import { type FormEvent, useRef, useState } from 'react';
import type { Problem } from '~/lib/api';
import { exactGrams, grams, moment } from '~/lib/format';
import { asText, readNumber } from '~/lib/numbers';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import type { Plan, PlanDesk } from '~/views/plan/use-plan';

type Component = Plan['components'][number];
type VesselDraft = { key: string; gross: string; vessel: string };

const emptyVessel = (): VesselDraft => ({ key: crypto.randomUUID(), gross: '', vessel: '' });

/** Weigh a finished component: the scale's reading, less its empty vessel; several vessels add up. */
export function WeighIn({
  component,
  closed,
  desk,
}: {
  component: Component;
  closed: boolean;
  desk: PlanDesk;
}) {
  const { weighing } = component;
  const [correcting, setCorrecting] = useState(false);
  if (weighing && !correcting) {
    return (
      <section className="rounded-lg bg-bench p-3">
        <p className="text-sm text-muted">
          Weighed by {weighing.weighed_by}, {moment(weighing.weighed_at)}
        </p>
        <p className="figures text-2xl font-bold">{grams(weighing.cooked_g)} g</p>
        <p className="figures text-sm text-muted">
          {weighing.vessels
            .map((one) => `${exactGrams(one.gross_g)}${one.vessel_g ? ` − ${exactGrams(one.vessel_g)}` : ''}`)
            .join(' + ')}
        </p>
        {closed ? null : (
          <div className="mt-2 flex flex-wrap gap-2">
            <Button onClick={() => setCorrecting(true)}>Correct it</Button>
            <Button
              look="quiet"
              onClick={() =>
                void desk.change(() => [
                  { kind: 'withdraw', component_id: component.id, command_id: crypto.randomUUID() },
                ])
              }
            >
              Take it back
            </Button>
          </div>
        )}
      </section>
    );
  }
  if (closed) return null;
  return <WeighForm component={component} desk={desk} onDone={() => setCorrecting(false)} />;
}

function WeighForm({
  component,
  desk,
  onDone,
}: {
  component: Component;
  desk: PlanDesk;
  onDone: () => void;
}) {
  const [vessels, setVessels] = useState<VesselDraft[]>(() =>
    component.weighing
      ? component.weighing.vessels.map((one) => ({
          key: crypto.randomUUID(),
          gross: asText(one.gross_g),
          vessel: one.vessel_g ? asText(one.vessel_g) : '',
        }))
      : [emptyVessel()],
  );
  const [problem, setProblem] = useState<Problem | null>(null);
  // One id for one reading: sending it again after a lost answer must not weigh twice.
  const commandId = useRef(crypto.randomUUID());

  const typed = vessels.map((one) => ({ gross: readNumber(one.gross), vessel: readNumber(one.vessel) }));
  const net = typed.reduce((sum, one) => sum + (one.gross.value ?? 0) - (one.vessel.value ?? 0), 0);
  const change = (place: number, part: Partial<VesselDraft>) => {
    setProblem(null);
    commandId.current = crypto.randomUUID();
    setVessels(vessels.map((one, at) => (at === place ? { ...one, ...part } : one)));
  };
  const fault = (place: number, field: 'gross' | 'vessel') => {
    const pointer = `/changes/0/vessels/${place}/${field}_g`;
    return typed[place]?.[field].fault ?? problem?.errors?.find((one) => one.pointer === pointer)?.message;
  };
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (typed.some((one) => one.gross.fault || one.vessel.fault)) return;
    const body = typed.map((one) => ({ gross_g: one.gross.value ?? 0, vessel_g: one.vessel.value ?? 0 }));
    const refused = await desk.change(() => [
      { kind: 'weigh', component_id: component.id, command_id: commandId.current, vessels: body },
    ]);
    setProblem(refused?.type === 'invalid' ? refused : null);
    if (!refused) onDone();
  };
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="rounded-lg bg-bench p-3">
      <h3 className="mb-2 text-lg">Weigh what came out</h3>
      {vessels.map((one, place) => (
        <div key={one.key} className="mb-2 grid grid-cols-2 gap-2">
          <Field
            label={place ? `On the scale, ${place + 1}` : 'On the scale'}
            unit="g"
            inputMode="decimal"
            value={one.gross}
            onChange={(event) => change(place, { gross: event.target.value })}
            fault={fault(place, 'gross')}
          />
          <Field
            label={place ? `Empty vessel, ${place + 1}` : 'Empty vessel'}
            unit="g"
            inputMode="decimal"
            placeholder="0"
            value={one.vessel}
            onChange={(event) => change(place, { vessel: event.target.value })}
            fault={fault(place, 'vessel')}
          />
        </div>
      ))}
      <p className="mb-2 flex items-baseline justify-between">
        <button
          type="button"
          className="min-h-9 text-sm underline"
          onClick={() => setVessels([...vessels, emptyVessel()])}
        >
          Another vessel
        </button>
        <span>
          net <span className="figures text-xl font-bold">{exactGrams(net)} g</span>
        </span>
      </p>
      {problem && !problem.errors?.some((one) => /vessels\/\d/.test(one.pointer)) ? (
        <p role="alert" className="mb-2 text-sm font-medium text-alert">
          {problem.detail}
        </p>
      ) : null}
      <Button type="submit" look="main" className="w-full" disabled={desk.busy}>
        Record the weight
      </Button>
    </form>
  );
}
