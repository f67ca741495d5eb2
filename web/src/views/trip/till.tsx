import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { toast } from 'sonner';
import { type Schemas, toProblem } from '~/api/client';
import { currencyUnit, plural, price } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { useDraft } from '~/lib/use-draft';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Field } from '~/parts/field';
import { ProblemNotice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';
import { tripQuery } from '~/views/trip/queries';
import { boughtWords, rowsOf } from '~/views/trip/walking';

type Trip = Schemas['TripView'];

/** The receipt against the list; with it the trip is over, and what was bought is in the house. */
export function Till({ tripId, trip, waiting }: { tripId: string; trip: Trip; waiting: number }) {
  return (
    <section aria-label="At the till" className="print:hidden mb-8 max-w-2xl">
      <h2 className="text-xl">At the till</h2>
      {trip.trip.finished_at === null ? (
        <Receipt tripId={tripId} trip={trip} waiting={waiting} />
      ) : (
        <Paid tripId={tripId} trip={trip} />
      )}
    </section>
  );
}

function Receipt({ tripId, trip, waiting }: { tripId: string; trip: Trip; waiting: number }) {
  const queries = useQueryClient();
  const [paid, setPaid, forgetPaid] = useDraft(`trip/${tripId}/paid`, '');
  const [items, setItems, forgetItems] = useDraft<Record<string, string>>(`trip/${tripId}/items`, {});
  // What the plan needs no more was bought all the same: it is on the receipt, and comes into the house.
  const inBasket = [
    ...rowsOf(trip).flatMap(({ item, state }) =>
      state.bought ? [{ key: state.item, name: item.name, bought: state.bought, foodId: item.food_id }] : [],
    ),
    ...trip.dropped.flatMap(({ item, name, bought }) =>
      bought ? [{ key: item, name, bought, foodId: item }] : [],
    ),
  ];
  const typed = (key: string) => readNumber(items[key] ?? '');
  const total = readNumber(paid);
  const known = inBasket.reduce((sum, { key, bought }) => sum + (typed(key).value ?? bought.cost ?? 0), 0);
  const unknown = inBasket.filter(
    ({ key, bought }) => typed(key).value === null && bought.cost === null,
  ).length;
  const beyond = total.value === null ? null : total.value - known;
  const finish = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/trips/{trip_id}/finished', {
          params: { path: { trip_id: tripId } },
          body: {
            paid: total.value,
            items: inBasket.flatMap(({ key }) => {
              const value = typed(key).value;
              return value === null ? [] : [{ item: key, paid: value }];
            }),
          },
        }),
        { about: `trip/${tripId}`, words: ['The trip is over'], href: `/trips/${tripId}` },
      ),
    onSuccess: (view) => {
      queries.setQueryData(tripQuery(tripId).queryKey, view);
      void queries.invalidateQueries({ queryKey: ['house'] });
      void queries.invalidateQueries({ queryKey: ['plans'] });
      forgetPaid();
      forgetItems();
      toast.success('What was bought is in the house.');
    },
  });
  const problem = finish.isError ? toProblem(finish.error) : null;
  const hasFault = total.fault !== null || inBasket.some(({ key }) => typed(key).fault);
  return (
    <>
      <p className="text-sm text-muted">
        The whole receipt, and single items where you wish; a price that was paid is remembered with today’s
        date.
      </p>
      <div className="mt-2 w-44">
        <Field
          label="Paid in all"
          unit={currencyUnit()}
          inputMode="decimal"
          value={paid}
          onChange={(event) => setPaid(event.target.value)}
          fault={total.fault}
        />
      </div>
      <ul aria-label="Paid by item" className="mt-3 divide-y divide-steel border-y border-steel">
        {inBasket.map(({ key, name, bought, foodId }) => (
          <li key={key} className="grid grid-cols-[minmax(0,1fr)_8rem] items-center gap-3 py-1">
            <span>
              {name} <span className="text-sm text-muted">{boughtWords(bought, foodId)}</span>
            </span>
            <Field
              label={`${name}, paid`}
              hideLabel
              unit={currencyUnit()}
              inputMode="decimal"
              placeholder={bought.cost === null ? '' : bought.cost.toFixed(2)}
              value={items[key] ?? ''}
              onChange={(event) => {
                const { value } = event.target;
                setItems((before) => ({ ...before, [key]: value }));
              }}
              fault={typed(key).fault}
            />
          </li>
        ))}
      </ul>
      {beyond === null ? null : <p className="mt-2">{beyondWords(known, beyond, unknown)}</p>}
      {problem ? (
        <div className="mt-2">
          <ProblemNotice problem={problem} />
        </div>
      ) : null}
      <Button
        look="main"
        className="mt-3 min-h-14"
        disabled={hasFault || finish.isPending || waiting > 0}
        onClick={() => finish.mutate()}
      >
        {inBasket.length
          ? `Done: ${plural(inBasket.length, 'food')} into the house`
          : 'Done: nothing was bought'}
      </Button>
      {waiting ? (
        <p className="mt-1 text-sm text-muted">
          {plural(waiting, 'tick')} must reach the server first; they go by themselves once it answers.
        </p>
      ) : null}
    </>
  );
}

/** How far the receipt is from what is known of its items, in a sentence. */
function beyondWords(known: number, beyond: number, unknown: number) {
  const cents = Math.round(beyond * 100) / 100;
  if (cents === 0) return 'The items come to what was paid.';
  const items = `The items come to ${price(known)}`;
  if (cents < 0)
    return `${items}, ${price(-cents)} more than was paid: a discount, or one of them was cheaper. Type what it cost.`;
  if (unknown)
    return `${items}; the other ${price(cents)} are for ${plural(unknown, 'food')} without a price, or for something else.`;
  return `${items}, ${price(cents)} less than was paid: something else on the receipt, or one of them was dearer.`;
}

function Paid({ tripId, trip: { till, trip } }: { tripId: string; trip: Trip }) {
  const queries = useQueryClient();
  const reopen = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/trips/{trip_id}/reopened', { params: { path: { trip_id: tripId } } }), {
        about: `trip/${tripId}`,
        words: ['The trip is open again'],
        href: `/trips/${tripId}`,
      }),
    onSuccess: () => {
      for (const queryKey of [['trips'], ['house'], ['plans']]) void queries.invalidateQueries({ queryKey });
    },
    onError: showProblem,
  });
  return (
    <>
      <table className="mt-2 w-full">
        <tbody>
          <Line name="By the prices of the list" value={till.expected} />
          {till.items.map((one) => (
            <Line
              key={one.name}
              name={`${one.name}: ${price(one.paid)} instead of ${price(one.expected)}`}
              value={one.paid - one.expected}
              isSigned
            />
          ))}
          {till.unexplained ? (
            <Line
              name={
                till.without_price
                  ? `${plural(till.without_price, 'food')} without a price, or something else`
                  : 'Not explained by the items'
              }
              value={till.unexplained}
              isSigned
            />
          ) : null}
          {till.paid === null ? null : <Line name="Paid" value={till.paid} isSum />}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-muted">
        What was bought is{' '}
        <Link to="/house" className="underline underline-offset-4">
          in the house
        </Link>
        ; write there until when it keeps. Begun by {trip.started_by}.
      </p>
      <Button className="mt-3" disabled={reopen.isPending} onClick={() => reopen.mutate()}>
        Open the trip again
      </Button>
    </>
  );
}

function Line({
  name,
  value,
  isSigned = false,
  isSum = false,
}: {
  name: string;
  value: number;
  isSigned?: boolean;
  isSum?: boolean;
}) {
  return (
    <tr className={isSum ? 'border-t-2 border-edge font-semibold' : 'border-t border-steel'}>
      <th scope="row" className="py-1 text-left font-normal">
        {name}
      </th>
      <td className="figures py-1 text-right">
        {isSigned ? (value < 0 ? '−' : '+') : ''}
        {price(isSigned ? Math.abs(value) : value)}
      </td>
    </tr>
  );
}
