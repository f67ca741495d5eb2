import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { EnergyWords } from '~/food/energy-words';
import { Between, MacroHead } from '~/food/macros';
import { LIMITED, MACRO_KEYS } from '~/food/nutrients';
import { energy, exactNumber, exactWeight, oneDecimal, slotName, wholeNumber } from '~/lib/format';
import { macroShown } from '~/lib/units';
import { Button } from '~/parts/button';
import { budgetOf, budgetWords } from '~/views/batch/frame/costs';
import { Panel } from '~/views/batch/frame/panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { containersOf, type Row, rowIn } from '~/views/batch/plan/columns';
import { dishOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';
import { Apart, Choose, Lines } from '~/views/batch/plan/row-changes';
import { WaysOut } from '~/views/batch/plan/ways-out';
import { containersQuery } from '~/views/containers/queries';

/** Where one container's macros come from, component by component, and its capacity. */
export function RowPanel({
  plan,
  row,
  desk,
  onClose,
}: {
  plan: Plan;
  row: Row;
  desk: PlanDesk;
  onClose: () => void;
}) {
  const closed = plan.batch.packed_at !== null;
  const name = (id: string) => plan.components.find((one) => one.id === id)?.name ?? '';
  return (
    <Panel title={row.client} detail={`one container, ${slotName(row.slot, row.day_type)}`} onClose={onClose}>
      <WaysOut plan={plan} row={row} desk={desk} />
      {row.notes.map((note) => (
        <p key={note} className="border-l-4 border-l-ochre bg-bench px-3 py-2 text-sm">
          {note}.
        </p>
      ))}
      <table className="w-full text-sm">
        <caption className="mb-1 text-left font-medium text-muted">Where the macros come from</caption>
        <MacroHead first="grams" />
        <tbody>
          {row.cells.map((cell) => (
            <tr key={cell.component_id} className="border-t border-steel align-top">
              <th scope="row" className="py-1 pr-1 text-left font-normal leading-tight">
                {name(cell.component_id)}
                <span className="figures block text-muted">{exactWeight(cell.grams)}</span>
              </th>
              {MACRO_KEYS.map((key) => (
                <td key={key} className="figures py-1 text-right">
                  {key === 'kcal' ? energy(cell.amounts.kcal) : oneDecimal(cell.amounts[key])}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-t-2 border-ink font-bold">
            <th scope="row" className="py-1 text-left">
              {exactWeight(row.total_g)}
            </th>
            {MACRO_KEYS.map((key) => (
              <td key={key} className="figures py-1 text-right">
                {key === 'kcal' ? energy(row.amounts.kcal) : oneDecimal(row.amounts[key])}
                <Between amounts={row.amounts} of={key} />
              </td>
            ))}
          </tr>
          <tr className="text-muted">
            <th scope="row" className="py-1 text-left font-normal">
              Target
            </th>
            {MACRO_KEYS.map((key) => (
              <td key={key} className="figures py-1 text-right">
                {row.target[key] === null ? '–' : exactNumber(macroShown(key, row.target[key] ?? 0))}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="text-sm text-muted">
        Each cell: grams × what 100 g of the component hold. <EnergyWords />
      </p>
      <KeptOut row={row} name={name} />
      {closed ? null : <Choose plan={plan} row={row} desk={desk} />}
      {closed ? null : <Apart row={row} name={name} desk={desk} />}
      <Containers plan={plan} row={row} closed={closed} desk={desk} />
      {closed ? null : <Lines plan={plan} row={row} desk={desk} onClose={onClose} />}
      <Limits row={row} closed={closed} desk={desk} />
      <Budget row={row} />
      <p className="text-sm text-muted">
        Filled to about {wholeNumber(row.volume_ml)} ml, by each component’s assumed bulk density.
      </p>
      <Link
        to="/clients/$clientId"
        params={{ clientId: row.client_id }}
        className="inline-block min-h-9 underline"
      >
        Open {row.client}’s page
      </Link>
    </Panel>
  );
}

/** What is left out for this client, or not liked, and by which allergen or word. */
function KeptOut({ row, name }: { row: Row; name: (id: string) => string }) {
  const told = row.cells.flatMap((cell) => [
    ...cell.left_out.map((reason) => ({ ...reason, cell, how: 'left out' })),
    ...(cell.left_out.length ? [] : cell.disliked.map((reason) => ({ ...reason, cell, how: 'not liked' }))),
  ]);
  if (told.length === 0) return null;
  return (
    <section className="text-sm">
      <h3 className="font-medium text-muted">Kept out for {row.client}</h3>
      <ul>
        {told.map(({ cell, how, word, of }) => (
          <li key={`${cell.component_id}/${word}`} className="py-0.5">
            <strong>{name(cell.component_id)}</strong> is {how}: {word}
            {of === word || of === name(cell.component_id) ? '' : ` (${of})`}
          </li>
        ))}
      </ul>
    </section>
  );
}

type Part = { row: Row; closed: boolean; desk: PlanDesk };

/** What the container holds and carries, and, where it matters here, the whole plate and who goes first. */
function Containers({ plan, row, closed, desk }: Part & { plan: Plan }) {
  const kinds = useQuery(containersQuery).data ?? [];
  const sizes = kinds.filter((kind) => kind.ml !== row.capacity_ml && kind.ml >= row.volume_ml);
  const set = (part: Partial<ReturnType<typeof containersOf>>) =>
    desk.change((now) => [{ ...containersOf(rowIn(now, row)), ...part }]);
  const number = (value: number | string | null) => (value === null ? null : Number(value));
  const schools = new Set(dishOf(plan, row)?.parts.map((part) => part.school));
  return (
    <div className="grid grid-cols-2 gap-3">
      <InlineNumber
        of={row.id}
        label="The container holds"
        unit="ml"
        value={row.capacity_ml}
        disabled={closed}
        onCommit={(value) => set({ capacity_ml: number(value) })}
      />
      <InlineNumber
        of={row.id}
        label="It carries"
        unit="g"
        value={row.capacity_g}
        disabled={closed}
        onCommit={(value) => set({ capacity_g: number(value) })}
      />
      {closed || sizes.length === 0 ? null : (
        <p className="col-span-2 flex flex-wrap gap-1">
          {sizes.map((kind) => (
            <Button
              key={kind.id}
              className="!min-h-9 !px-2 text-sm"
              onClick={() => void set({ capacity_ml: kind.ml })}
            >
              {kind.name}, {wholeNumber(kind.ml)} ml
            </Button>
          ))}
        </p>
      )}
      {schools.has('plate shares') ? (
        <InlineNumber
          of={row.id}
          label="The whole plate"
          unit="g"
          value={row.plate_g}
          disabled={closed}
          onCommit={(value) => set({ plate_g: number(value) })}
        />
      ) : null}
      {schools.has('equal split') ? (
        <InlineNumber
          of={row.id}
          label="Portions of what is divided"
          unit="×"
          value={row.helping}
          disabled={closed}
          onCommit={(value) => set({ helping: Number(value ?? 1) })}
        />
      ) : null}
      {plan.batch.sharing === 'ranked' ? (
        <InlineNumber
          of={row.id}
          label="Served"
          unit="th"
          value={row.rank + 1}
          disabled={closed}
          onCommit={(value) => set({ rank: Math.max(Number(value ?? 1) - 1, 0) })}
        />
      ) : null}
    </div>
  );
}

/** What the container costs to the budget of the batch. */
function Budget({ row }: { row: Row }) {
  const budget = budgetOf(row);
  if (!budget) return null;
  return (
    <p className={`text-sm ${budget.miss ? 'font-medium text-alert' : 'text-muted'}`}>
      A container {budgetWords(budget)}, by the packs that this plan takes. The budget stands in the brief.
    </p>
  );
}

/** Limits on one side, with where the container stands. */
function Limits({ row, closed, desk }: Part) {
  return (
    <details className="text-sm" open={LIMITED.some(({ key }) => row.target[key] !== null)}>
      <summary className="min-h-8 font-medium">Limits</summary>
      <ul className="space-y-2">
        {LIMITED.map(({ key, limit: label, unit }) => {
          const gauge = row.gauges.find((one) => one.nutrient === key);
          return (
            <li key={key}>
              <InlineNumber
                of={row.id}
                label={label}
                unit={unit === 'g' ? 'grams' : unit}
                value={row.target[key]}
                disabled={closed}
                onCommit={(value) =>
                  desk.change((now) => [
                    {
                      kind: 'target',
                      row_id: row.id,
                      ...rowIn(now, row).target,
                      [key]: value === null ? null : Number(value),
                    },
                  ])
                }
              />
              <p className={gauge && gauge.miss !== 0 ? 'font-medium text-alert' : 'text-muted'}>
                holds {row.amounts.at_least.includes(key) ? 'at least ' : ''}
                {oneDecimal(row.amounts[key])} {unit}
                {gauge
                  ? !gauge.known
                    ? ', not known'
                    : gauge.miss === 0
                      ? ', inside'
                      : `, ${oneDecimal(Math.abs(gauge.miss))} ${unit} off`
                  : ''}
              </p>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
