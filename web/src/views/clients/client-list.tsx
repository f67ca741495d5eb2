import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { Schemas } from '~/api/client';
import { MacroName } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { allergensQuery } from '~/food/queries';
import { plural, slotName, wholeNumber } from '~/lib/format';
import { usePhone } from '~/lib/use-media';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { clientsQuery } from '~/views/clients/queries';

export function ClientList() {
  const clients = useQuery(clientsQuery);
  const allergens = useQuery(allergensQuery);
  const phone = usePhone();
  if (clients.isError) return <LoadFailed error={clients.error} retry={() => void clients.refetch()} />;
  if (!clients.data) return <Loading what="the clients" />;
  const names = allergens.data ?? {};
  return (
    <Page
      title="Clients"
      detail={plural(clients.data.length, 'client')}
      actions={
        <>
          <Link to="/clients/forms" className={buttonClass()}>
            Forms
          </Link>
          <Link to="/clients/new" className={buttonClass('main')}>
            New client
          </Link>
        </>
      }
    >
      {clients.data.length === 0 ? (
        <Empty title="No client yet">
          <p>Add who eats, with the macros one container of theirs shall hold.</p>
        </Empty>
      ) : phone ? (
        <ul className="space-y-3">
          {clients.data.map((client) => (
            <ClientCard key={client.id} client={client} allergens={names} />
          ))}
        </ul>
      ) : (
        <div className="relative overflow-x-auto">
          <table className="w-full">
            <thead>
              <tr className="bg-bench text-left text-sm text-muted">
                <th className="p-3 font-medium">Client</th>
                <th className="p-3 font-medium">Container</th>
                {MACRO_KEYS.map((key) => (
                  <th key={key} className="p-3 text-right font-medium">
                    <MacroName of={key} />
                  </th>
                ))}
                <th className="p-3 text-right font-medium">Holds</th>
                <th className="p-3 font-medium">Must not, does not like</th>
              </tr>
            </thead>
            {clients.data.map((client) => (
              <ClientRows key={client.id} client={client} allergens={names} />
            ))}
          </table>
        </div>
      )}
    </Page>
  );
}

type OfClient = { client: Schemas['ClientView']; allergens: Record<string, string> };

function ClientRows({ client, allergens }: OfClient) {
  const targets = client.targets.length ? client.targets : [null];
  return (
    <tbody className="border-b border-steel bg-sheet">
      {targets.map((target, place) => (
        <tr key={target?.id ?? 'none'}>
          {place === 0 ? (
            <th scope="rowgroup" rowSpan={targets.length} className="p-0 text-left align-top">
              <Link
                to="/clients/$clientId"
                params={{ clientId: client.id }}
                className="block min-h-11 p-3 text-lg font-semibold underline-offset-4 hover:underline"
              >
                {client.name}
              </Link>
            </th>
          ) : null}
          <td className="p-3">{target ? slotName(target.slot, target.day_type) : 'no target yet'}</td>
          {MACRO_KEYS.map((key) => (
            <td key={key} className="figures p-3 text-right text-lg">
              {target?.[key] === null || target === null ? '–' : wholeNumber(target[key] ?? 0)}
            </td>
          ))}
          <td className="figures p-3 text-right whitespace-nowrap">
            {target?.capacity_ml ? `${wholeNumber(target.capacity_ml)} ml` : '–'}
          </td>
          {place === 0 ? (
            <td rowSpan={targets.length} className="p-3 align-top">
              <MustNot client={client} allergens={allergens} />
            </td>
          ) : null}
        </tr>
      ))}
    </tbody>
  );
}

function MustNot({ client, allergens }: OfClient) {
  return (
    <>
      {client.allergens.length ? (
        <strong className="block text-alert">
          No {client.allergens.map((one) => allergens[one] ?? one).join(', ')}
        </strong>
      ) : null}
      {client.exclusions.length ? (
        <strong className="block">leave out {client.exclusions.join(', ')}</strong>
      ) : null}
      {client.dislikes.length ? (
        <span className="block text-muted">not fond of {client.dislikes.join(', ')}</span>
      ) : null}
    </>
  );
}

/** A client as a phone has room for: container below container. */
function ClientCard({ client, allergens }: OfClient) {
  return (
    <li className="rounded-xl border border-steel bg-sheet p-4">
      <Link
        to="/clients/$clientId"
        params={{ clientId: client.id }}
        className="block min-h-11 text-lg font-semibold underline-offset-4 hover:underline"
      >
        {client.name}
      </Link>
      <MustNot client={client} allergens={allergens} />
      {client.targets.map((target) => (
        <p key={target.id} className="mt-2 border-t border-steel pt-2">
          <span className="block">{slotName(target.slot, target.day_type)}</span>
          <span className="figures flex flex-wrap gap-x-3 text-sm">
            {MACRO_KEYS.filter((key) => target[key] !== null).map((key) => (
              <span key={key} className="whitespace-nowrap">
                <strong className="text-base">{wholeNumber(target[key] ?? 0)}</strong> <MacroName of={key} />
              </span>
            ))}
            {target.capacity_ml ? (
              <span className="whitespace-nowrap">in {wholeNumber(target.capacity_ml)} ml</span>
            ) : null}
          </span>
        </p>
      ))}
    </li>
  );
}
