import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import type { Schemas } from '~/api/client';
import { day, plural, price } from '~/lib/format';
import { buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { Arrivals } from '~/views/house/arrivals';
import { LotDialog } from '~/views/house/lot-dialog';
import { houseQuery } from '~/views/house/queries';
import { StapleList } from '~/views/house/staples';
import { UseUp } from '~/views/house/use-up';
import { keepsWords, lotWords, PLACES } from '~/views/house/words';

type Lot = Schemas['LotView'];

/** What is in the house, by place; what came in is written at the top, and what hurries stands first. */
export function HousePage() {
  const house = useQuery(houseQuery);
  const [chosen, setChosen] = useState<string | null>(null);
  if (house.isError) return <LoadFailed error={house.error} retry={() => void house.refetch()} />;
  if (!house.data) return <Loading what="what is in the house" />;
  const { lots, use_up: useUp, staples, worth, without_price: without } = house.data;
  const open = lots.find((lot) => lot.id === chosen);
  return (
    <Page
      title="In the house"
      detail={
        lots.length
          ? `${plural(lots.length, 'lot')}${worth === null ? '' : `, worth ${price(worth)}`}${
              worth !== null && without ? `, without ${without} of which no price is known` : ''
            }`
          : ''
      }
      actions={
        <>
          <Link to="/house/history" className={buttonClass()}>
            Prices and amounts
          </Link>
          <Link to="/containers" className={buttonClass()}>
            Containers
          </Link>
          <Link to="/pantry" className={buttonClass()}>
            Foods
          </Link>
        </>
      }
    >
      <Arrivals />
      <UseUp useUp={useUp} />
      {lots.length === 0 ? (
        <Empty title="Nothing is written down yet">
          <p>
            Write what is in the cupboards, the fridge and the freezer, one line each: the shopping list takes
            it off, and what expires first is used first.
          </p>
        </Empty>
      ) : null}
      {(['fridge', 'freezer', 'cupboard'] as const).map((place) => (
        <Place
          key={place}
          place={place}
          lots={lots.filter((lot) => lot.place === place)}
          onOpen={setChosen}
        />
      ))}
      <StapleList staples={staples} />
      {open ? <LotDialog key={open.id} lot={open} onClose={() => setChosen(null)} /> : null}
    </Page>
  );
}

function Place({
  place,
  lots,
  onOpen,
}: {
  place: Schemas['Keeping'];
  lots: Lot[];
  onOpen: (id: string) => void;
}) {
  if (lots.length === 0) return null;
  return (
    <section aria-label={PLACES[place]} className="mb-6">
      <h2 className="text-xl first-letter:uppercase">{PLACES[place]}</h2>
      <ul className="mt-1 divide-y divide-steel border-y border-steel">
        {lots.map((lot) => (
          <li key={lot.id}>
            <button
              type="button"
              onClick={() => onOpen(lot.id)}
              aria-label={`${lot.name}, ${lotWords(lot)}`}
              className="grid min-h-12 w-full grid-cols-[minmax(0,1fr)_auto] content-center items-baseline gap-x-4 py-1 text-left hover:bg-bench sm:grid-cols-[15rem_minmax(0,1fr)_15rem_6rem]"
            >
              <span className="figures text-lg font-semibold">{lotWords(lot)}</span>
              <span className="max-sm:col-span-2 max-sm:row-start-2">
                <span className="font-semibold">{lot.name}</span>{' '}
                <span className="text-sm text-muted">{lot.state}</span>
                {lot.opened ? <span className="ml-2 rounded bg-bench px-1 text-xs">open</span> : null}
                {lot.frozen_on ? (
                  <span className="ml-2 text-sm text-muted">
                    frozen on {day(lot.frozen_on)}; thaw in the fridge the day before
                  </span>
                ) : null}
              </span>
              <span
                className={`text-sm max-sm:text-right ${(lot.days_left ?? 9) <= 2 ? 'font-semibold text-alert' : 'text-muted'}`}
              >
                {keepsWords(lot)}
              </span>
              <span className="figures text-right max-sm:hidden">
                {lot.worth === null ? '' : price(lot.worth)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
