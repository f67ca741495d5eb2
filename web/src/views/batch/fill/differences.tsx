import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { exactNumber, exactWeight, plural, signed, weight } from '~/lib/format';
import { massShown, massUnit } from '~/lib/units';
import { differencesQuery } from '~/views/batch/fill/queries';
import { Told } from '~/views/batch/fill/told';

/** How near what was filled came to what was asked, by client, part and person, and how long it took. */
export function Differences({
  batchId,
  facts,
  onClose,
}: {
  batchId: string;
  facts: number;
  onClose: () => void;
}) {
  const found = useQuery(differencesQuery(batchId, facts));
  return (
    <Told
      title="How near it came"
      what="what was filled"
      found={found}
      isEmpty={({ people }) => people.length === 0}
      onClose={onClose}
    >
      {(near) => (
        <div className="space-y-4">
          <Table caption="By part" rows={near.parts} />
          <Table caption="By client" rows={near.clients} />
          <Table caption="By person" rows={near.people} />
          {near.left_out.length ? (
            <section>
              <h3 className="text-base">Left out on purpose</h3>
              <ul className="list-disc pl-5">
                {near.left_out.map((one) => (
                  <li key={one}>{one}</li>
                ))}
              </ul>
            </section>
          ) : null}
        </div>
      )}
    </Told>
  );
}

const HEADS = ['', 'Fills', 'Filled', 'Asked', 'Off on average', 'Most off', 'Not weighed', 'Seconds each'];

function Table({ caption, rows }: { caption: string; rows: Schemas['DifferenceView'][] }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full">
        <caption className="pb-1 text-left font-bold">{caption}</caption>
        <thead>
          <tr className="text-sm text-muted">
            {HEADS.map((head) => (
              <th key={head} scope="col" className="px-2 text-right font-medium first:text-left">
                {head || <span className="sr-only">{caption}</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.name} className="border-t border-steel">
              <th scope="row" className="py-1 text-left font-normal">
                {row.name}
              </th>
              {[
                plural(row.fills, 'fill'),
                weight(row.filled_g),
                weight(row.asked_g),
                row.mean_off_g === null ? '–' : exactWeight(row.mean_off_g),
                row.most_off_g === null ? '–' : `${signed(massShown(row.most_off_g))} ${massUnit()}`,
                row.estimated ? String(row.estimated) : '–',
                row.took_s === null ? '–' : exactNumber(row.took_s),
              ].map((text, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns stay where they are
                <td key={place} className="figures px-2 text-right">
                  {text}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
