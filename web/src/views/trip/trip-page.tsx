import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { sessionQuery } from '~/api/session';
import { moment, plural, price, weight } from '~/lib/format';
import { isShellKept } from '~/offline/shell';
import { getOutbox } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Toggles } from '~/parts/choice';
import { Tick } from '~/parts/field';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { ItemDialog } from '~/views/trip/item-dialog';
import { ItemRow, OwnRow } from '~/views/trip/item-row';
import { Till } from '~/views/trip/till';
import { type TripDesk, useTrip } from '~/views/trip/use-trip';
import { boughtWords, GROUPINGS, grouped, rowsOf } from '~/views/trip/walking';

type Trip = Schemas['TripView'];

/** A list that is walked through a shop: ticked on a phone, by one or several people, also without a network. */
export function TripPage() {
  const { tripId } = useParams({ from: '/inside/trips/$tripId' });
  const search = useSearch({ from: '/inside/trips/$tripId' });
  const navigate = useNavigate();
  const desk = useTrip(tripId);
  const session = useQuery(sessionQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  const { query, view } = desk;
  if (query.isError && !view) return <LoadFailed error={query.error} retry={() => void query.refetch()} />;
  if (!view) return <Loading what="the list" />;
  const set = (part: typeof search) =>
    void navigate({
      to: '/trips/$tripId',
      params: { tripId },
      search: { ...search, ...part },
      replace: true,
    });
  const rows = rowsOf(view);
  const done = rows.filter(({ state }) => state.bought).length;
  const isOver = view.trip.finished_at !== null;
  const names = view.trip.batches.map((one) => one.name).join(' and ');
  const open = rows.find(({ item }) => item.food_id === chosen);
  const left = search.left && !isOver ? rows.filter(({ state }) => !state.bought) : rows;
  return (
    <Page
      title={`Shopping for ${names}`}
      detail={isOver ? `bought on ${moment(view.trip.finished_at ?? '')}` : ''}
      actions={
        <>
          {view.trip.batches[0] && session.data?.rights === null ? (
            <Link
              to="/batches/$batchId/shop"
              params={{ batchId: view.trip.batches[0].id }}
              className={buttonClass()}
            >
              Back to the list
            </Link>
          ) : null}
          <Button onClick={() => window.print()}>Print</Button>
        </>
      }
    >
      <p className="mb-3" aria-live="polite">
        <span className="figures text-2xl font-bold">
          {done} of {rows.length}
        </span>{' '}
        <span className="text-muted">
          in the basket{costWords(view)}
          {desk.waiting ? `; ${plural(desk.waiting, 'tick')} kept here until the server answers` : ''}
        </span>
      </p>
      {isOver ? null : <Unkept ends={session.data?.session_ends ?? null} />}
      <Changed trip={view} note={desk.note} />
      {isOver ? null : (
        <div className="print:hidden mb-4 flex flex-wrap items-end gap-x-6 gap-y-2">
          <Toggles
            label="In the order of"
            value={search.by ?? 'aisle'}
            onValue={(by) => set({ by })}
            options={Object.entries(GROUPINGS).map(([value, label]) => ({
              value: value as keyof typeof GROUPINGS,
              label,
            }))}
          />
          <Tick
            label="Only what is left"
            checked={search.left ?? false}
            onChange={(checked) => set({ left: checked || undefined })}
          />
        </div>
      )}
      {rows.length === 0 ? (
        <Empty title="Nothing to buy">
          <p>Everything is in the house or in the pan.</p>
        </Empty>
      ) : null}
      {grouped(left, search.by ?? 'aisle').map((group) => (
        <section key={group.title} aria-label={group.title} className="mb-5 break-inside-avoid">
          <h2 className="text-lg first-letter:uppercase">{group.title}</h2>
          <ul className="mt-1 divide-y divide-steel border-y border-steel">
            {group.rows.map((row) => (
              <ItemRow
                key={row.item.food_id}
                row={row}
                note={desk.note}
                isOver={isOver}
                onMore={() => setChosen(row.item.food_id)}
              />
            ))}
          </ul>
        </section>
      ))}
      <ByHand desk={desk} trip={view} isOver={isOver} />
      <Till tripId={tripId} trip={view} waiting={desk.waiting} />
      {open ? (
        <ItemDialog tripId={tripId} row={open} note={desk.note} onClose={() => setChosen(null)} />
      ) : null}
    </Page>
  );
}

function costWords({ till, shopping }: Trip) {
  if (shopping.cost === null) return till.expected ? `, ${price(till.expected)}` : '';
  return till.expected
    ? `, ${price(till.expected)} of about ${price(shopping.cost)}`
    : `, about ${price(shopping.cost)} in all`;
}

const A_DAY_MS = 86_400_000;
const LITTLE_ROOM = 5_000_000;

/** What could be lost without a network, said while there still is one. */
function Unkept({ ends }: { ends: string | null }) {
  const room = useQuery({
    queryKey: ['room'],
    queryFn: async () => {
      const { quota = 0, usage = 0 } = (await navigator.storage?.estimate?.()) ?? {};
      return { isShort: quota > 0 && quota - usage < LITTLE_ROOM };
    },
  });
  const told = [
    getOutbox().durable
      ? ''
      : 'This browser keeps nothing, as private windows do: what is ticked without a network is lost when the page closes. Open the list in a usual window.',
    getOutbox().durable && !isShellKept()
      ? 'Without a network this page cannot be opened again here, so leave it open while you shop.'
      : '',
    room.data?.isShort
      ? 'The storage of this browser is nearly full: make room, or ticks may not be kept without a network.'
      : '',
    ends && Date.parse(ends) - Date.now() < A_DAY_MS
      ? `Your sign-in ends on ${moment(ends)}. Sign in again before you go: without a network nobody can.`
      : '',
  ].filter(Boolean);
  if (told.length === 0) return null;
  return (
    <div className="print:hidden mb-4">
      <Notice tone="caution" title="Before you go">
        <ul className="list-disc pl-5">
          {told.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      </Notice>
    </div>
  );
}

/** What the plan has come to need since the trip began; ticks stay as they are. */
function Changed({ trip, note }: { trip: Trip; note: TripDesk['note'] }) {
  const changed = rowsOf(trip).filter(({ state }) => state.was_g !== null);
  if (trip.trip.finished_at !== null || changed.length + trip.dropped.length === 0) return null;
  return (
    <div className="mb-4">
      <Notice tone="caution" title="The plan has changed since this list was opened">
        <ul className="list-disc pl-5">
          {changed.map(({ item, state }) => (
            <li key={item.food_id}>
              {item.name}: {state.was_g ? `${weight(state.was_g)} to buy before` : 'new'}, now{' '}
              {weight(item.to_buy_g)}
              {state.bought ? `; ${boughtWords(state.bought, item.food_id)} in the basket` : ''}
            </li>
          ))}
          {trip.dropped.map((one) => (
            <li key={one.item}>
              {one.name}: {weight(one.was_g)} to buy before, not needed any more
              {one.bought ? (
                <>
                  ; {weight(one.bought.grams)} in the basket.{' '}
                  <button
                    type="button"
                    className="min-h-9 underline underline-offset-4"
                    onClick={() =>
                      void note(`${one.name}: out of the basket`, {
                        item: one.item,
                        event: 'not bought',
                        text: '',
                      })
                    }
                  >
                    Put it back
                  </button>
                </>
              ) : null}
            </li>
          ))}
        </ul>
      </Notice>
    </div>
  );
}

/** What no batch needs: kitchen roll, a birthday cake. */
function ByHand({ desk, trip, isOver }: { desk: TripDesk; trip: Trip; isOver: boolean }) {
  const [text, setText] = useState('');
  const add = () => {
    if (!text.trim()) return;
    void desk.note(`On the list: ${text.trim()}`, {
      item: crypto.randomUUID(),
      event: 'added',
      text: text.trim(),
    });
    setText('');
  };
  if (isOver && trip.own.length === 0) return null;
  return (
    <section aria-label="Added by hand" className="mb-6">
      <h2 className="text-lg">Added by hand</h2>
      <ul className="mt-1 divide-y divide-steel border-y border-steel">
        {trip.own.map((one) => (
          <OwnRow key={one.item} one={one} note={desk.note} isOver={isOver} />
        ))}
      </ul>
      {isOver ? null : (
        <form
          className="print:hidden mt-2 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            add();
          }}
        >
          <label className="min-w-0 flex-1">
            <span className="sr-only">Something else</span>
            <input
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder="kitchen roll, a birthday cake"
              className="min-h-12 w-full rounded-lg border border-edge bg-sheet px-3 placeholder:text-muted"
            />
          </label>
          <Button type="submit" className="min-h-12" disabled={!text.trim()}>
            Add
          </Button>
        </form>
      )}
    </section>
  );
}
