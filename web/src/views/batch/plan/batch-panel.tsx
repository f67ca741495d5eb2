import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useRef, useState } from 'react';
import { type Problem, type Schemas, toProblem } from '~/api/client';
import { currencyUnit } from '~/lib/format';
import { asText, readNumber } from '~/lib/numbers';
import { oddsWords } from '~/lib/odds';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { Panel } from '~/views/batch/frame/panel';
import { filledQuery } from '~/views/batch/frame/queries';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { containersOf } from '~/views/batch/plan/columns';
import { CopyBatch, LeaveBatch } from '~/views/batch/plan/copy-batch';
import { dishNames } from '~/views/batch/plan/dishes';

/** The other way round: how many containers what is on hand, in packs or weighed fills, and for whom. */
function Filled({ plan, desk }: { plan: Plan; desk: PlanDesk }) {
  const [asked, setAsked] = useState(false);
  const filled = useQuery({
    ...filledQuery(plan.batch.id, plan.batch.version),
    enabled: asked,
    retry: false,
  });
  const take = () =>
    desk.act((now) =>
      (filled.data?.rows ?? []).flatMap((one) => {
        const row = now.rows.find((other) => other.id === one.row_id);
        return row && row.count !== one.fills ? [{ ...containersOf(row), count: one.fills }] : [];
      }),
    );
  return (
    <section aria-label="From what there is" className="space-y-2 border-t border-steel pt-3">
      <h3 className="text-lg">From what there is</h3>
      <p className="text-sm text-muted">
        Fix the raw amounts you have, or whole packs, in each component; weighed pots count as they are.
      </p>
      {asked ? null : (
        <Button className="w-full" onClick={() => setAsked(true)}>
          How many containers is that?
        </Button>
      )}
      {filled.isError ? <p className="text-sm text-alert">{toProblem(filled.error).detail}</p> : null}
      {filled.data ? (
        <>
          <table className="w-full text-sm">
            <caption className="sr-only">Containers that the known amounts fill</caption>
            <tbody>
              {filled.data.rows.map((row) => (
                <tr key={row.row_id} className="border-t border-steel">
                  <th scope="row" className="py-1 text-left font-normal">
                    {row.name}
                  </th>
                  <td className="figures py-1 text-right">
                    <strong>{row.fills}</strong>{' '}
                    <span className="text-muted">
                      {row.fills === row.planned ? '' : `not ${row.planned}`}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-sm">
            {filled.data.left.length ? `Left over: ${filled.data.left.join(', ')}.` : 'Nothing is left over.'}
          </p>
          {filled.data.rows.some((row) => row.fills !== row.planned) ? (
            <Button className="w-full" onClick={() => void take()}>
              Plan these numbers
            </Button>
          ) : null}
        </>
      ) : null}
    </section>
  );
}

type Brief = Required<Schemas['SetBatch']>;

/** The batch itself: name, day, the scale's step and what is cooked on top. */
export function BatchPanel({ plan, desk, onClose }: { plan: Plan; desk: PlanDesk; onClose: () => void }) {
  const { batch } = plan;
  const closed = batch.packed_at !== null;
  const [name, setName] = useState(batch.name);
  const [cookOn, setCookOn] = useState(batch.cook_on);
  const [step, setStep] = useState(String(batch.step_g));
  const [buffer, setBuffer] = useState(String(Math.round(batch.buffer_share * 1000) / 10));
  const [sure, setSure] = useState(
    batch.sure_share == null ? '' : String(Math.round(batch.sure_share * 1000) / 10),
  );
  const [budget, setBudget] = useState(asText(batch.budget ?? null));
  const [sharing, setSharing] = useState(batch.sharing as Brief['sharing']);
  const [leftover, setLeftover] = useState(batch.leftover as Brief['leftover']);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [stepTyped, bufferTyped, sureTyped] = [readNumber(step), readNumber(buffer), readNumber(sure)];
  const budgetTyped = readNumber(budget);
  const fault = (field: string) => problem?.errors?.find((one) => one.pointer.endsWith(`/${field}`))?.message;
  const typed = JSON.stringify([name, cookOn, step, buffer, sure, budget, sharing, leftover]);
  const latest = useRef(typed);
  latest.current = typed;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (stepTyped.fault || bufferTyped.fault || sureTyped.fault || budgetTyped.fault) return;
    const refused = await desk.change(() => [
      {
        kind: 'batch',
        name,
        cook_on: cookOn,
        step_g: stepTyped.value ?? 0,
        buffer_share: (bufferTyped.value ?? 0) / 100,
        sure_share: sureTyped.value === null ? null : sureTyped.value / 100,
        budget: budgetTyped.value,
        sharing,
        leftover,
      },
    ]);
    setProblem(refused?.type === 'invalid' ? refused : null);
    // What was typed on while the answer was on its way stays open.
    if (!refused && latest.current === typed) onClose();
  };
  return (
    <Panel title="Brief" detail={dishNames(plan.dishes)} onClose={onClose}>
      <form onSubmit={(event) => void submit(event)} noValidate className="space-y-3">
        <Field
          label="Name"
          value={name}
          disabled={closed}
          onChange={(event) => setName(event.target.value)}
          fault={fault('name')}
        />
        <Field
          label="Cook on"
          type="date"
          value={cookOn}
          disabled={closed}
          onChange={(event) => setCookOn(event.target.value)}
          fault={fault('cook_on')}
        />
        <Field
          label="The scale’s step"
          unit="g"
          inputMode="decimal"
          value={step}
          disabled={closed}
          onChange={(event) => setStep(event.target.value)}
          fault={stepTyped.fault ?? fault('step_g')}
        />
        <Field
          label="On top, for tasting and spill"
          unit="%"
          inputMode="decimal"
          value={buffer}
          disabled={closed}
          onChange={(event) => setBuffer(event.target.value)}
          fault={bufferTyped.fault ?? fault('buffer_share')}
        />
        <Field
          label="How sure each pot suffices"
          hint={
            sure.trim() && sureTyped.value
              ? `So much raw that each pot suffices ${oddsWords(sureTyped.value / 100)}, however its yield comes out. Empty: as its yield is expected, every other time.`
              : 'Empty: each pot is cooked as its yield is expected, and comes out short every other time but for what is on top.'
          }
          unit="%"
          inputMode="decimal"
          value={sure}
          disabled={closed}
          onChange={(event) => setSure(event.target.value)}
          fault={sureTyped.fault ?? fault('sure_share')}
        />
        <Field
          label="A container costs at most"
          hint="A limit among the others, by the packs that the plan takes. Empty: cost decides nothing."
          unit={currencyUnit()}
          inputMode="decimal"
          value={budget}
          disabled={closed}
          onChange={(event) => setBudget(event.target.value)}
          fault={budgetTyped.fault ?? fault('budget')}
        />
        <Choice
          label="When a pot is short"
          hint={
            sharing === 'ranked'
              ? 'Open a container by its client’s name to set who goes first.'
              : 'All miss the same share of their targets.'
          }
          options={[
            { value: 'fair', label: 'All miss alike' },
            { value: 'ranked', label: 'Some go first' },
          ]}
          value={sharing}
          disabled={closed}
          onValue={setSharing}
        />
        <Choice
          label="What weighed pots have left over"
          options={[
            { value: 'keep', label: 'Stays in the pot' },
            { value: 'spread', label: 'Goes into the containers, within the tolerances' },
            { value: 'extra containers', label: 'Fills extra containers' },
          ]}
          value={leftover}
          disabled={closed}
          onValue={setLeftover}
        />
        {closed ? null : (
          <Button type="submit" look="main" className="w-full">
            Save the brief
          </Button>
        )}
      </form>
      {closed ? null : <Filled plan={plan} desk={desk} />}
      <a
        className="inline-block min-h-9 text-sm underline"
        href={`/api/v1/batches/${plan.batch.id}/document`}
        download={`${plan.batch.name}.json`}
      >
        Save as an open plan document
      </a>
      <CopyBatch plan={plan} />
      <LeaveBatch plan={plan} desk={desk} />
    </Panel>
  );
}
