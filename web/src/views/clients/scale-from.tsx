import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toProblem } from '~/api/client';
import { MacroHead } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { slotName } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { macroShown } from '~/lib/units';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Field } from '~/parts/field';
import { type TargetDraft, targetOf } from '~/views/clients/draft';
import { clientsQuery, scaledQuery } from '~/views/clients/queries';

const FACTORS = ['0.5', '0.75', '1', '1.5', '2'];

/** A portion of somebody else's target: half of it, one and a half; shown for what that does to the macros. */
export function ScaleFrom({ onTake }: { onTake: (figures: Partial<TargetDraft>) => void }) {
  const clients = useQuery(clientsQuery);
  const [targetId, setTargetId] = useState('');
  const [typed, setTyped] = useState('0.5');
  const { value: factor, fault } = readNumber(typed);
  const scaled = useQuery({
    ...scaledQuery(targetId, factor ?? 0),
    enabled: targetId !== '' && factor !== null,
  });
  const options = (clients.data ?? []).flatMap((client) =>
    client.targets.map((target) => ({
      value: target.id,
      label: `${client.name}, ${slotName(target.slot, target.day_type)}`,
    })),
  );
  const chosen = (clients.data ?? []).flatMap((one) => one.targets).find((one) => one.id === targetId);
  const take = (figures: Partial<TargetDraft>) =>
    onTake({ ...(chosen ? { slot: chosen.slot, day_type: chosen.day_type } : {}), ...figures });
  return (
    <details className="mt-4 rounded-xl border border-steel bg-sheet p-4">
      <summary className="min-h-8 font-medium">Start from another client’s portion</summary>
      <div className="mt-3 grid max-w-3xl items-start gap-3 sm:grid-cols-2">
        <Choice
          label="Whose container"
          options={[{ value: '', label: 'Choose one' }, ...options]}
          value={targetId}
          onValue={setTargetId}
        />
        <Field
          label="Times"
          unit="×"
          inputMode="decimal"
          list="portion-factors"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          fault={fault ?? (scaled.isError ? toProblem(scaled.error).detail : null)}
        />
        <datalist id="portion-factors">
          {FACTORS.map((one) => (
            <option key={one} value={one} />
          ))}
        </datalist>
      </div>
      {scaled.data && !scaled.isError ? (
        <div className="mt-3 max-w-3xl space-y-3">
          <table className="w-full">
            <caption className="sr-only">{scaled.data.name} before and after</caption>
            <MacroHead first="One container" />
            <tbody>
              {(
                [
                  ['Theirs', scaled.data.before],
                  [`× ${scaled.data.factor}`, scaled.data.after],
                ] as const
              ).map(([name, figures]) => (
                <tr key={name} className="border-t border-steel">
                  <th scope="row" className="py-1 text-left font-normal">
                    {name}
                  </th>
                  {MACRO_KEYS.map((key) => (
                    <td key={key} className="figures py-1 text-right text-lg">
                      {figures[key] === null ? '–' : Math.round(macroShown(key, figures[key]) * 10) / 10}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <Button onClick={() => scaled.data && take(targetOf(scaled.data.after))}>Add it as a target</Button>
        </div>
      ) : null}
    </details>
  );
}
