import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { plural } from '~/lib/format';
import { Button } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Close, Overlaid } from '~/parts/dialog';
import type { HandOverDesk } from '~/views/batch/hand-over/use-hand-over';
import { rowWords, sentence } from '~/views/batch/hand-over/words';

type Component = Schemas['ShelvedView'];

/** How long each component keeps, by which row of the table, and why that one. */
export function Shelf({ components, desk }: { components: Component[]; desk: HandOverDesk }) {
  const [open, setOpen] = useState<Component | null>(null);
  return (
    <section aria-label="How long it keeps" className="mt-6">
      <h2 className="mb-1 text-xl">How long it keeps</h2>
      <p className="mb-2 text-sm text-muted">
        A container keeps as long as the part that keeps least. The rows are matched by food, method and what
        is mixed; say so where one is wrong.
      </p>
      <div className="overflow-x-auto">
        <table className="w-full text-left">
          <thead className="text-sm text-muted">
            <tr>
              <th className="py-1 pr-4 font-medium">Component</th>
              <th className="py-1 pr-4 font-medium">Fridge</th>
              <th className="py-1 pr-4 font-medium">Goes by</th>
              <th className="py-1 font-medium">
                <span className="sr-only">Change</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {components.map((one) => (
              <tr key={one.component_id} className="border-t border-steel align-top">
                <th scope="row" className="py-2 pr-4 font-semibold">
                  {one.name}
                </th>
                <td className="figures py-2 pr-4 whitespace-nowrap">
                  {one.fridge_days === null ? 'no limit' : plural(one.fridge_days, 'day')}
                </td>
                <td className="py-2 pr-4">
                  {one.matches.length ? (
                    <ul>
                      {one.matches.map(({ row, foods, assumed }) => (
                        <li key={row.category}>
                          {row.category}
                          {foods.length ? <span className="text-muted"> for {foods.join(', ')}</span> : null}
                          {assumed ? <span className="text-ochre-text"> assumed</span> : null}
                          {one.chosen_by ? (
                            <span className="text-muted"> chosen by {one.chosen_by}</span>
                          ) : null}
                          <span className="block text-sm text-muted">
                            {rowWords(row)}
                            {row.cool_note ? `. ${sentence(row.cool_note)}` : ''}
                          </span>
                        </li>
                      ))}
                    </ul>
                  ) : (
                    <span className="text-muted">no row limits it</span>
                  )}
                </td>
                <td className="py-1 text-right">
                  <Button aria-label={`Another row for ${one.name}`} onClick={() => setOpen(one)}>
                    Another row
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {open ? <ChooseRow of={open} desk={desk} onClose={() => setOpen(null)} /> : null}
    </section>
  );
}

function ChooseRow({ of, desk, onClose }: { of: Component; desk: HandOverDesk; onClose: () => void }) {
  const table = useQuery({
    queryKey: ['shelf life'],
    queryFn: () => ask(api.GET('/api/v1/shelf-life')),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const [category, setCategory] = useState(of.chosen_by ? (of.matches[0]?.row.category ?? '') : '');
  const row = table.data?.rows.find((one) => one.category === category);
  return (
    <Overlaid
      open
      onOpenChange={onClose}
      wide
      title={`How long ${of.name} keeps`}
      detail="It counts for this batch and for the next ones of the same recipe. Days that are given keep until the calendar is made anew."
    >
      <div className="grid gap-4">
        <Choice
          label="Row of the table"
          value={category}
          options={[
            { value: '', label: 'as it is matched' },
            ...(table.data?.rows ?? []).map((one) => ({ value: one.category, label: one.category })),
          ]}
          onValue={setCategory}
        />
        <p className="min-h-11 text-sm text-muted">{row ? `${rowWords(row)}. ${sentence(row.note)}` : ''}</p>
        <div className="flex justify-end gap-3">
          <Close>
            <Button>Cancel</Button>
          </Close>
          <Button
            look="main"
            onClick={() => {
              onClose();
              void desk.choose(of.component_id, category || null);
            }}
          >
            Save
          </Button>
        </div>
      </div>
    </Overlaid>
  );
}
