import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { MacroName } from '~/food/macros';
import { MACRO_KEYS } from '~/food/nutrients';
import { day, energy, exactGrams, oneDecimal, signed, weight, yieldWords } from '~/lib/format';
import { Choice } from '~/parts/choice';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { comparedQuery } from '~/views/batch/frame/queries';
import type { Plan } from '~/views/batch/frame/use-plan';
import { batchesQuery } from '~/views/batches/queries';

type Compared = Schemas['ComparedView'];

/** This plan beside another batch, the last of the same recipe first: grams, yields and macros of both. */
export function BesideView({
  plan,
  other,
  onOther,
}: {
  plan: Plan;
  other: string | undefined;
  onOther: (id: string) => void;
}) {
  const batches = useQuery(batchesQuery);
  const others = (batches.data ?? [])
    .filter((one) => one.id !== plan.batch.id)
    .sort((a, b) => rank(plan, a) - rank(plan, b) || b.cook_on.localeCompare(a.cook_on));
  const chosen = other ?? others[0]?.id;
  const compared = useQuery({
    ...comparedQuery(plan.batch.id, chosen ?? '', plan.batch.version),
    enabled: chosen !== undefined,
  });
  if (batches.isError) return <LoadFailed error={batches.error} retry={() => void batches.refetch()} />;
  if (!batches.data) return <Loading what="the other batches" />;
  if (chosen === undefined) {
    return (
      <Empty title="There is no other batch">
        <p>Once a second batch is planned, the two can stand side by side here.</p>
      </Empty>
    );
  }
  return (
    <section aria-label="Beside another batch" className="space-y-4">
      <div className="max-w-xl">
        <Choice
          label="Beside"
          options={others.map((one) => ({
            value: one.id,
            label: `${one.name}, ${one.dishes.join(' and ')}, ${day(one.cook_on)}`,
          }))}
          value={chosen}
          onValue={onOther}
        />
      </div>
      {compared.isError ? (
        <LoadFailed error={compared.error} retry={() => void compared.refetch()} />
      ) : compared.data ? (
        <Both plan={plan} compared={compared.data} />
      ) : (
        <Loading what="both plans" />
      )}
    </section>
  );
}

/** Batches of the same dishes first, then those with some of them. */
function rank(plan: Plan, batch: Schemas['BatchBrief']) {
  const mine = new Set(plan.dishes.map((dish) => dish.name));
  const common = batch.dishes.filter((name) => mine.has(name)).length;
  if (common === 0) return 2;
  return common === mine.size && common === batch.dishes.length ? 0 : 1;
}

function Both({ plan, compared }: { plan: Plan; compared: Compared }) {
  return (
    <section
      aria-label="Both plans"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too.
      tabIndex={0}
      className="relative overflow-x-auto rounded-xl border border-steel bg-sheet"
    >
      <table className="w-full border-collapse">
        <caption className="px-3 pt-3 text-left text-sm text-muted">
          Large: {plan.batch.name}. Small: {compared.other}, {day(compared.cook_on)}
          {compared.packed_at ? ', as it was packed' : ', as it is planned'}. One container each.
        </caption>
        <thead>
          <tr className="bg-bench align-bottom text-left">
            <th scope="col" className="p-2.5 text-sm font-medium text-muted">
              Client
            </th>
            {compared.components.map((component) => (
              <th key={component.name} scope="col" className="border-l border-steel p-2 font-normal">
                <span className="block font-heading leading-tight font-bold">{component.name}</span>
                <Two
                  now={component.now_g === null ? null : weight(component.now_g)}
                  then={component.then_g === null ? null : weight(component.then_g)}
                />
                <span className="block text-xs text-muted">{yieldsOf(component)}</span>
              </th>
            ))}
            {MACRO_KEYS.map((key) => (
              <th
                key={key}
                scope="col"
                className="border-l border-steel p-2 text-right text-sm font-semibold"
              >
                <MacroName of={key} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {compared.rows.map((row, number) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a client may have two rows of one meal
            <tr key={`${row.name} ${number}`} className="border-t border-steel align-top">
              <th scope="row" className="p-2.5 text-left leading-tight font-semibold">
                {row.name}
                <span className="figures block text-sm font-normal text-muted">
                  ×{row.now_count}
                  {row.then_count === row.now_count ? '' : ` (×${row.then_count})`}
                </span>
              </th>
              {row.cells.map((cell, place) => (
                <td key={compared.components[place]?.name} className="border-l border-steel p-2">
                  <Two
                    now={cell.now_g === null ? null : exactGrams(cell.now_g)}
                    then={cell.then_g === null ? null : exactGrams(cell.then_g)}
                    moved={
                      cell.now_g === null || cell.then_g === null ? '' : signed(cell.now_g - cell.then_g)
                    }
                  />
                </td>
              ))}
              {MACRO_KEYS.map((key) => (
                <td key={key} className="border-l border-steel p-2 text-right">
                  <Two now={macro(row.now, key)} then={macro(row.then, key)} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** The yield here, and that of the other batch where it differs. */
function yieldsOf({ now_yield, then_yield }: Compared['components'][number]) {
  const [now, then] = [now_yield, then_yield].map((one) => (one === null ? '–' : yieldWords(one)));
  return now === then ? now : `${now} (${then})`;
}

function macro(amounts: Schemas['AmountsView'] | null, key: (typeof MACRO_KEYS)[number]) {
  if (amounts === null) return null;
  return key === 'kcal' ? energy(amounts.kcal) : oneDecimal(amounts[key]);
}

/** A figure of this batch, with that of the other beneath. */
function Two({ now, then, moved = '' }: { now: string | null; then: string | null; moved?: string }) {
  return (
    <span className="figures block whitespace-nowrap">
      <span className="block text-lg leading-tight font-semibold">{now ?? '–'}</span>
      <span className="block text-sm text-muted">
        <span className="sr-only">beside it </span>
        {then ?? '–'}
        {moved && moved !== '0' ? ` (now ${moved})` : ''}
      </span>
    </span>
  );
}
