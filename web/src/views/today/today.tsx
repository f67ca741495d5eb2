import { queryOptions, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import { day, dueDay, exactNumber, plural, today } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { timeOfDay } from '~/views/batch/cook/clock';
import { batchesQuery, dueQuery } from '~/views/batches/queries';

type Due = Schemas['Due'];

const heardQuery = queryOptions({ queryKey: ['heard'], queryFn: () => ask(api.GET('/api/v1/heard')) });

/** What is due next, large; what is due after it, a line each. */
export function Today() {
  const due = useQuery(dueQuery);
  const batches = useQuery(batchesQuery);
  const heard = useQuery(heardQuery);
  const failed = [due, batches, heard].find((one) => one.isError);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!due.data || !batches.data || !heard.data) return <Loading what="today" />;
  const packed = batches.data
    .filter((batch) => batch.packed_at !== null && batch.put_away_at === null)
    .slice(0, 4);
  const [next, ...later] = due.data;
  return (
    <Page
      title="Today"
      detail={day(today())}
      actions={
        <Link to="/batches/new" className={buttonClass('main')}>
          Plan a batch
        </Link>
      }
    >
      {next ? (
        <NextStep due={next} />
      ) : (
        <Empty title="Nothing is waiting">
          <p>Plan a batch from a recipe and your clients’ targets, and what is next for it stands here.</p>
        </Empty>
      )}
      <FromClients heard={heard.data} />
      <ToBuy due={due.data} />
      {later.length > 0 ? (
        <section className="mt-6">
          <h2 className="mb-2 text-xl">After that</h2>
          <ul className="divide-y divide-steel border-y border-steel">
            {later.map((one) => (
              <Line key={`${one.batch.id}-${one.what}`} batch={one.batch}>
                <span
                  className={`inline-block w-36 first-letter:uppercase ${isLate(one) ? 'font-semibold text-alert' : 'text-muted'}`}
                >
                  {dueWords(one)}
                </span>
                <span className="min-w-0 flex-1 basis-64 font-semibold">
                  <What {...one} />
                </span>
                <span className="text-muted">
                  {one.batch.name}, {plural(one.batch.containers, 'container')}
                </span>
              </Line>
            ))}
          </ul>
        </section>
      ) : null}
      {packed.length > 0 ? (
        <section className="mt-8">
          <h2 className="mb-2 text-xl">Packed lately</h2>
          <ul className="divide-y divide-steel border-y border-steel">
            {packed.map((batch) => (
              <Line key={batch.id} batch={batch}>
                <span className="w-36 text-muted">{day(batch.cook_on)}</span>
                <span className="min-w-0 flex-1 basis-64 font-semibold">{batch.name}</span>
                <span className="text-muted">
                  {plural(batch.containers, 'container')} for {plural(batch.clients, 'client')}
                </span>
              </Line>
            ))}
          </ul>
          <p className="mt-2 max-w-prose text-sm text-muted">
            Cooked food keeps 3 days at 5 °C or below, cooked rice 1 day unless cooled fast; freeze what is
            eaten later. General guidance: your local rules come first.
          </p>
        </section>
      ) : null}
    </Page>
  );
}

const SOON_MS = 2 * 86_400_000;

/** What must be bought by tomorrow or is overdue, in one trip; what is bought right now. */
function ToBuy({ due }: { due: Due[] }) {
  const soon = Date.parse(today()) + SOON_MS;
  const going = [
    ...new Map(due.flatMap((one) => (one.trip_id ? [[one.trip_id, one] as const] : []))).entries(),
  ];
  const near = due.filter((one) => one.buy_by && !one.trip_id && Date.parse(one.buy_by) < soon);
  const [first, ...others] = near;
  if (!first && going.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-xl">To buy</h2>
      <ul className="divide-y divide-steel border-y border-steel">
        {going.map(([trip, one]) => (
          <li key={trip}>
            <Link
              to="/trips/$tripId"
              params={{ tripId: trip }}
              className="flex min-h-12 flex-wrap items-baseline gap-x-6 px-1 py-2.5 hover:bg-bench"
            >
              <span className="inline-block w-36 text-muted">going on</span>
              <span className="font-semibold">Shopping for {one.batch.name}: open the list</span>
            </Link>
          </li>
        ))}
        {first ? (
          <li>
            <Link
              to="/batches/$batchId/shop"
              params={{ batchId: first.batch.id }}
              search={others.length ? { with: others.map((one) => one.batch.id) } : {}}
              className="flex min-h-12 flex-wrap items-baseline gap-x-6 px-1 py-2.5 hover:bg-bench"
            >
              <span className="inline-block w-36 text-muted">by {dueDay(first.buy_by ?? first.on)}</span>
              <span className="font-semibold">{near.map((one) => one.batch.name).join(', ')}</span>
            </Link>
          </li>
        ) : null}
      </ul>
    </section>
  );
}

const isLate = ({ on }: Due) => on < today();
const dueWords = (due: Due) =>
  [
    isLate(due) ? `was due ${dueDay(due.on)}` : dueDay(due.on),
    due.at_min == null ? '' : timeOfDay(due.at_min),
  ]
    .filter(Boolean)
    .join(', ');

/** What to do, and how long ahead of cooking it begins where it does. */
const What = ({ what, lead_min }: Due) => (
  <>
    {what}
    {lead_min === null ? null : (
      <span className="text-base font-normal text-muted"> {exactNumber(lead_min / 60)} hours ahead</span>
    )}
  </>
);

function Line({ batch, children }: { batch: Schemas['BatchBrief']; children: ReactNode }) {
  return (
    <li>
      <Link
        to="/batches/$batchId"
        params={{ batchId: batch.id }}
        className="flex min-h-12 flex-wrap items-baseline gap-x-6 px-1 py-2.5 hover:bg-bench"
      >
        {children}
      </Link>
    </li>
  );
}

/** Where the next step of a batch is done: at the scale once something is weighed, in the plan before. */
const stageOf = ({ weighed, components }: Schemas['BatchBrief']) =>
  weighed === 0
    ? ({ to: '/batches/$batchId', children: 'Open the plan' } as const)
    : weighed < components
      ? ({ to: '/batches/$batchId/weigh', children: 'Weigh' } as const)
      : ({ to: '/batches/$batchId/fill', children: 'Fill' } as const);

function NextStep({ due }: { due: Due }) {
  const { batch } = due;
  return (
    <section className="grid gap-x-8 gap-y-3 rounded-xl border border-steel bg-sheet p-5 sm:grid-cols-[1fr_auto]">
      <div>
        <p className="first-letter:uppercase">
          <span className={isLate(due) ? 'font-semibold text-alert' : 'font-semibold'}>{dueWords(due)}</span>
          <span className="text-muted">, {batch.name}</span>
        </p>
        <h2 className="mt-1 text-[32px] leading-tight sm:text-[40px]">
          <What {...due} />
        </h2>
        <p className="mt-2 text-muted">
          {batch.dishes.join(', ')}: {plural(batch.containers, 'container')} for{' '}
          {plural(batch.clients, 'client')}, {batch.weighed} of {plural(batch.components, 'component')}{' '}
          weighed
        </p>
      </div>
      <div className="self-center">
        <Link {...stageOf(batch)} params={{ batchId: batch.id }} className={buttonClass('main')} />
      </div>
    </section>
  );
}

/** What clients wait for: forms and words to be read, something to thaw, messages that did not go. */
function FromClients({ heard }: { heard: Schemas['HeardView'] }) {
  const link = 'inline-flex min-h-11 items-center font-semibold underline underline-offset-4';
  return (
    <p className="mt-4 flex flex-wrap gap-x-6 empty:hidden">
      {heard.messages ? (
        <Link to="/outbox" className={`${link} text-alert`}>
          {plural(heard.messages, 'message')} did not go
        </Link>
      ) : null}
      {heard.thaw ? (
        <Link to="/outbox" search={{ kind: 'thaw tonight' }} className={link}>
          {heard.thaw === 1 ? '1 client thaws' : `${heard.thaw} clients thaw`} something tonight
        </Link>
      ) : null}
      {heard.forms ? (
        <Link to="/clients/forms" className={link}>
          {plural(heard.forms, 'form')} to be read
        </Link>
      ) : null}
      {heard.words.map((one) => (
        <Link
          key={one.client_id}
          to="/clients/$clientId"
          params={{ clientId: one.client_id }}
          search={{ page: 'open' }}
          className={link}
        >
          {plural(one.words, 'word')} from {one.client}
        </Link>
      ))}
    </p>
  );
}
