import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { plural } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { LoadFailed } from '~/parts/notice';
import { kitchensQuery } from '~/views/kitchen/queries';

/** The kitchens that are cooked in, each with who cooks there. */
export function KitchenList() {
  const kitchens = useQuery(kitchensQuery);
  return (
    <section aria-label="Kitchens" className="mt-8 max-w-3xl">
      <h2 className="text-xl">Kitchens</h2>
      <p className="text-sm text-muted">
        What there is to cook on and who cooks: the order of work of a cook day follows from it.
      </p>
      {kitchens.isError ? (
        <LoadFailed error={kitchens.error} retry={() => void kitchens.refetch()} />
      ) : (
        <ul className="mt-3 divide-y divide-steel border-y border-steel">
          {(kitchens.data ?? []).map((one) => (
            <li key={one.id}>
              <Link
                to="/kitchens/$kitchenId"
                params={{ kitchenId: one.id }}
                className="flex min-h-12 items-center justify-between gap-3 py-1 hover:bg-bench"
              >
                <span className="font-medium">{one.name}</span>
                <span className="text-sm text-muted">
                  {one.people.map(({ name }) => name).join(', ') || 'nobody yet'};{' '}
                  {plural(one.items.length, 'kind')} of equipment
                </span>
              </Link>
            </li>
          ))}
          {kitchens.data?.length === 0 ? <li className="py-3 text-muted">None yet.</li> : null}
        </ul>
      )}
      <Link to="/kitchens/new" className={`${buttonClass()} mt-3`}>
        Add a kitchen
      </Link>
    </section>
  );
}
