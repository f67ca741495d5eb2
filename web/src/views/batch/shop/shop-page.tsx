import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Schemas } from '~/api/client';
import { day, exactNumber, plural, price, weight } from '~/lib/format';
import { oddsWords } from '~/lib/odds';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Tick } from '~/parts/field';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { Why } from '~/parts/why';
import { readTrip } from '~/views/batch/frame/search';
import { StageLine } from '~/views/batch/frame/stage-line';
import { type PlanDesk, usePlan } from '~/views/batch/frame/use-plan';
import { useStages } from '~/views/batch/frame/use-stages';
import { AisleOrder } from '~/views/batch/shop/aisle-order';
import { CostSection } from '~/views/batch/shop/costs';
import { shoppingQuery } from '~/views/batch/shop/queries';
import {
  dearerWords,
  listText,
  oldWords,
  packWords,
  sections,
  shopOf,
  takeWords,
} from '~/views/batch/shop/words';
import { keepHouse } from '~/views/house/queries';
import { answerStaple } from '~/views/house/staples';
import { settingsQuery } from '~/views/kitchen/queries';

type Item = Schemas['ItemView'];
type List = Schemas['ShoppingList'];

/** What is to be bought for a batch, and for others in the same trip, in the order one walks a shop. */
export function ShopPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/shop' });
  const search = useSearch({ from: '/inside/batches/$batchId/shop' });
  const others = search.with ?? [];
  const wanted = { with: others, fresh: search.fresh ?? true, extras: search.extras ?? false };
  const navigate = useNavigate();
  const goTo = useStages(batchId);
  const desk = usePlan(batchId);
  const { plan } = desk;
  const [ordering, setOrdering] = useState(false);
  const list = useQuery({
    ...shoppingQuery(batchId, plan.data?.batch.version, wanted),
    placeholderData: (before) => before,
  });
  const start = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/trips', {
          body: { batches: [batchId, ...others], fresh: wanted.fresh, extras: wanted.extras },
        }),
        {
          about: 'trips',
          words: ['A trip to the shops'],
          href: `/batches/${batchId}/shop`,
        },
      ),
    onSuccess: ({ id }) => navigate({ to: '/trips/$tripId', params: { tripId: id } }),
    onError: showProblem,
  });
  const failed = [plan, list].find((one) => one.isError);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!plan.data || !list.data) return <Loading what="the shopping list" />;
  const { items, batches } = list.data;
  const title = `Shop for ${batches.map((one) => one.name).join(' and ')}`;
  const copy = () =>
    navigator.clipboard.writeText(listText(title, items)).then(
      () => toast.success('The list is copied as text.'),
      () => toast.error('This browser lets nothing be copied here. Print the list, or take the CSV.'),
    );
  const exported = new URLSearchParams([
    ...others.map((id) => ['with', id]),
    ['fresh', String(wanted.fresh)],
    ['extras', String(wanted.extras)],
  ]);
  const set = (part: typeof search) =>
    void navigate({
      to: '/batches/$batchId/shop',
      params: { batchId },
      search: readTrip({ ...search, ...part }),
      replace: true,
    });
  const takeAlong = (id: string, along: boolean) =>
    set({ with: along ? [...others, id] : others.filter((one) => one !== id) });
  return (
    <>
      <StageLine plan={plan.data} at="shop" onGo={goTo} />
      <Page
        title={title}
        detail={batches.map((one) => day(one.cook_on)).join(' and ')}
        actions={
          <>
            {list.data.trip_id ? (
              <Link
                to="/trips/$tripId"
                params={{ tripId: list.data.trip_id }}
                className={buttonClass('main')}
              >
                Go on shopping
              </Link>
            ) : (
              <Button look="main" disabled={start.isPending} onClick={() => start.mutate()}>
                Go shopping
              </Button>
            )}
            <Link to="/house" className={buttonClass()}>
              In the house
            </Link>
            <Button onClick={() => void copy()}>Copy as text</Button>
            <a
              className={buttonClass()}
              href={`/api/v1/batches/${batchId}/shopping.pdf?${exported}`}
              download
            >
              PDF
            </a>
            <a
              className={buttonClass()}
              href={`/api/v1/batches/${batchId}/shopping.csv?${exported}`}
              download
            >
              CSV
            </a>
            <a
              className={buttonClass()}
              href={`/api/v1/batches/${batchId}/shopping.json?${exported}`}
              download
            >
              JSON
            </a>
            <Button onClick={() => setOrdering(true)}>Order of the aisles</Button>
            <Button onClick={() => window.print()}>Print the list</Button>
          </>
        }
      >
        <Trip list={list.data} batchId={batchId} along={others} onTake={takeAlong} />
        <div className="print:hidden mb-3 flex flex-wrap gap-x-6">
          <Tick
            label="With what is added at eating"
            checked={wanted.fresh}
            onChange={(fresh) => set({ fresh: fresh ? undefined : false } as typeof search)}
          />
          <Tick
            label="With the extras of the clients’ days"
            checked={wanted.extras}
            onChange={(extras) => set({ extras: extras || undefined } as typeof search)}
          />
        </div>
        {items.length === 0 ? (
          <Empty title="Nothing to buy">
            <p>Everything of it is in the pan, or no container needs anything yet.</p>
          </Empty>
        ) : (
          <p className="mb-4">
            {list.data.cost === null ? null : (
              <span className="figures text-2xl font-bold">{price(list.data.cost)} </span>
            )}
            <span className="text-muted">
              {costWords(list.data)} How long food keeps is a usual span: the date on the pack decides.
            </span>
            <LeftOver />
          </p>
        )}
        {sections(items).map((section) => (
          <Section key={section.title} {...section} batchId={batchId} desk={desk} />
        ))}
        {ordering ? <AisleOrder onClose={() => setOrdering(false)} /> : null}
        <CostSection
          batchId={batchId}
          version={plan.data.batch.version}
          budget={plan.data.batch.budget ?? null}
          desk={desk}
        />
      </Page>
    </>
  );
}

function costWords({ cost, without_price: without }: List) {
  if (cost === null) return 'No price is known yet: give foods their packs and prices in the pantry.';
  return without
    ? `in whole packs, without ${plural(without, 'food')} of which no price is known.`
    : 'in whole packs.';
}

/** What packs may leave over, and where that is set. */
function LeftOver() {
  const settings = useQuery(settingsQuery);
  if (!settings.data) return null;
  const share = settings.data.most_left_share;
  return (
    <span className="print:hidden block text-sm text-muted">
      {share === null
        ? 'The packs that cost least, whatever they leave over.'
        : `The packs that cost least and leave at most ${exactNumber(100 * share)} % of the need over.`}{' '}
      <Link to="/settings" className="underline underline-offset-4">
        Change that
      </Link>
    </span>
  );
}

/** Which batches are bought for, and what of them is bought already. */
function Trip({
  list,
  batchId,
  along,
  onTake,
}: {
  list: List;
  batchId: string;
  /** The ids of those that are bought for too. */
  along: string[];
  onTake: (id: string, along: boolean) => void;
}) {
  const open = [...list.batches, ...list.others]
    .filter((one) => one.id !== batchId)
    .sort((one, other) => one.cook_on.localeCompare(other.cook_on));
  return (
    <>
      {open.length ? (
        <fieldset className="print:hidden mb-3">
          <legend className="text-sm font-medium text-muted">Bought in the same trip</legend>
          <div className="flex flex-wrap gap-x-6">
            {open.map((one) => (
              <Tick
                key={one.id}
                label={`${one.name}, ${day(one.cook_on)}`}
                checked={along.includes(one.id)}
                onChange={(checked) => onTake(one.id, checked)}
              />
            ))}
          </div>
        </fieldset>
      ) : null}
      {list.always_there.length ? (
        <p className="mb-3 text-sm text-muted">
          Always in the house, so not listed: {list.always_there.join(', ')}.{' '}
          <Link to="/house" className="underline underline-offset-4">
            Change that
          </Link>
        </p>
      ) : null}
      {list.in_the_pan.length ? (
        <p className="mb-3 text-sm text-muted">In the pan already: {list.in_the_pan.join(', ')}.</p>
      ) : null}
    </>
  );
}

type Whole = { batchId: string; desk: PlanDesk };

function Section({ title, items, ...whole }: Whole & { title: string; items: Item[] }) {
  return (
    <section aria-label={title} className="mb-5 break-inside-avoid">
      <h2 className="text-xl first-letter:uppercase">{title}</h2>
      <ul className="mt-1 divide-y divide-steel border-y border-steel">
        {items.map((item) => (
          <Line key={item.food_id} item={item} {...whole} />
        ))}
      </ul>
    </section>
  );
}

function Line({ item, batchId, desk }: Whole & { item: Item }) {
  const [cheapest, ...others] = item.choices;
  return (
    <li
      aria-label={item.name}
      className="grid min-h-12 grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 py-2 sm:grid-cols-[15rem_minmax(0,1fr)_auto]"
    >
      <span className="figures text-lg font-semibold">
        {takeWords(item)}
        <span className="block font-sans text-sm font-normal text-muted">
          {[item.picked, shopOf(cheapest)].filter(Boolean).join('; ')}
        </span>
      </span>
      <div className="max-sm:col-span-2 max-sm:row-start-2">
        <p>
          <span className="font-semibold">{item.name}</span>{' '}
          <span className="text-sm text-muted">{item.state}</span>
        </p>
        <p className="text-sm text-muted">
          <Why label={`${item.name}, needed`} figure={`${weight(item.grams)} needed`}>
            <Needs item={item} />
          </Why>
          {item.in_house_g && item.to_buy_g ? `, ${weight(item.to_buy_g)} to buy` : ''}
          {cheapest ? `, ${weight(cheapest.left_g)} over` : ''}
          {item.to_buy_g && !item.buy_early ? keepWords(item) : ''}
          {item.by_net ? '; what the can drains to is not known, so its net weight is counted' : ''}
        </p>
        <Enough item={item} />
        <WholePacks item={item} batchId={batchId} desk={desk} />
        {item.in_house.map((one) => (
          <p key={one.lot_id} className="text-sm text-muted">
            {weight(one.grams)} from the {one.place}
            {one.use_by ? `, use by ${day(one.use_by)}` : ''}
            {one.place === 'freezer' ? '; thaw it in the fridge the day before' : ''}
          </p>
        ))}
        {item.held.map((one) => (
          <p key={one.batch} className="text-sm text-muted">
            {weight(one.grams)} in the house are for {one.batch}
          </p>
        ))}
        {item.ask_staple ? <AskStaple item={item} /> : null}
        {others.map((one) => (
          <p key={packWords(one)} className="text-sm text-muted">
            or {packWords(one)}: {weight(one.left_g)} over, {dearerWords(one, cheapest)}
          </p>
        ))}
        {item.leaves_more ? (
          <p className="text-sm text-muted">No packs leave as little over as the settings allow.</p>
        ) : null}
        {item.passed_over.length ? (
          <p className="text-sm text-muted">
            Not chosen from, for {item.passed_over.length > 1 ? 'their prices are' : 'its price is'} not
            known: {item.passed_over.join(', ')}
          </p>
        ) : null}
      </div>
      <span className="figures text-right">
        {item.to_buy_g === 0 ? null : cheapest === undefined || cheapest.cost === null ? (
          <span className="font-sans text-sm text-muted">no price</span>
        ) : (
          <>
            {price(cheapest.cost)}
            <span className="block font-sans text-sm text-muted">{oldWords(cheapest)}</span>
          </>
        )}
      </span>
    </li>
  );
}

/** Whole packs are offered to the pot while they are at most so much more than it needs, as a share of that. */
const MOST_MORE = 0.5;

/** Whole packs decide how much is cooked: the rest of the pot follows in proportion. */
function WholePacks({ item, batchId, desk }: Whole & { item: Item }) {
  const packs = item.choices[0]?.packs;
  const [pack, second] = packs ?? [];
  const [need] = item.needs;
  const left = item.choices[0]?.left_g ?? 0;
  // A bunch of mint that is bought for a spoonful of it decides nothing.
  const isFarMore = left > MOST_MORE * item.to_buy_g;
  const isWhole = !pack || second || pack.sold === 'by weight' || item.in_house_g || left < 1 || isFarMore;
  if (isWhole || !need || !item.pot_id || need.batch_id !== batchId) return null;
  const componentId = item.pot_id;
  return (
    <p className="print:hidden text-sm text-muted">
      <button
        type="button"
        className="min-h-9 text-ink underline underline-offset-4"
        onClick={() =>
          void desk.act(() => [
            {
              kind: 'packs',
              component_id: componentId,
              line_id: need.line_id,
              pack_g: pack.grams,
              packs: pack.count,
            },
          ])
        }
      >
        Cook all of {pack.count === 1 ? 'it' : 'them'}
      </button>{' '}
      <span>so much {need.component} is made; undone in the plan</span>
    </p>
  );
}

/** From here on one pack more changes nothing that is worth a line. */
const SURE_ENOUGH = 0.995;

/** How sure the pot suffices with these packs, and what one more or one fewer changes. */
function Enough({ item: { enough } }: { item: Item }) {
  const [fewer, chosen, more] = enough;
  if (fewer && !chosen && fewer.share < SURE_ENOUGH)
    return (
      <p className="text-sm text-muted">
        {weight(fewer.grams)}: enough {oddsWords(fewer.share)}
      </p>
    );
  if (!chosen || !fewer || !more || chosen.share >= SURE_ENOUGH) return null;
  return (
    <p className="text-sm text-muted">
      {weight(chosen.grams)}: enough {oddsWords(chosen.share)}; with one pack fewer {oddsWords(fewer.share)},
      with one more {oddsWords(more.share)}
    </p>
  );
}

/** Salt is not bought each time: it is asked once whether it is always there. */
function AskStaple({ item }: { item: Item }) {
  const answer = useMutation({
    mutationFn: (always: boolean) => answerStaple(item.food_id, item.name, always),
    onSuccess: keepHouse,
    onError: showProblem,
  });
  return (
    <p className="print:hidden mt-1 flex flex-wrap items-center gap-2 text-sm">
      Is it always in the house?
      <Button disabled={answer.isPending} onClick={() => answer.mutate(true)}>
        Always there
      </Button>
      <Button disabled={answer.isPending} onClick={() => answer.mutate(false)}>
        Buy it when needed
      </Button>
    </p>
  );
}

const keepWords = ({ keeps_days: days }: Item) =>
  days === null ? '' : `; keeps about ${plural(days, 'day')}`;

function Needs({ item }: { item: Item }) {
  const batches = new Set(item.needs.map((need) => need.batch_id)).size;
  return (
    <table className="w-full">
      <tbody>
        {item.needs.map((need) => (
          <tr key={need.line_id + need.batch_id} className="border-t border-steel">
            <th scope="row" className="py-1 text-left font-normal">
              {need.component}
              {batches > 1 ? <span className="text-muted"> of {need.batch}</span> : null}
            </th>
            <td className="figures py-1 text-right">{weight(need.grams)}</td>
          </tr>
        ))}
        <tr className="border-t-2 border-edge">
          <th scope="row" className="py-1 text-left font-semibold">
            As bought, with bone, peel and what is trimmed off
          </th>
          <td className="figures py-1 text-right font-semibold">{weight(item.grams)}</td>
        </tr>
      </tbody>
    </table>
  );
}
