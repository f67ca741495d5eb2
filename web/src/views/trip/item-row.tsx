import type { ReactNode } from 'react';
import type { Schemas } from '~/api/client';
import { plural, price, weight } from '~/lib/format';
import { Button } from '~/parts/button';
import { oldWords, shopOf } from '~/views/batch/shop/words';
import type { TripDesk } from '~/views/trip/use-trip';
import { asListed, boughtWords, type Row, toTake } from '~/views/trip/walking';

type Shared = { note: TripDesk['note']; isOver: boolean };

/** A food to buy: one press anywhere on its left puts it into the basket, another takes it out again. */
export function ItemRow({
  row: { item, state },
  note,
  isOver,
  onMore,
}: Shared & { row: Row; onMore: () => void }) {
  const cheapest = item.choices[0];
  const { bought } = state;
  const toggle = () =>
    void (bought
      ? note(`${item.name}: out of the basket`, { item: state.item, event: 'not bought', text: '' })
      : note(`${item.name}: in the basket`, {
          item: item.food_id,
          event: 'bought',
          text: '',
          bought: asListed(item),
        }));
  return (
    <li
      aria-label={item.name}
      className={`grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-2 ${bought ? 'bg-bench' : 'bg-sheet'}`}
    >
      <Basket isIn={bought !== null} label={item.name} onToggle={toggle} isOver={isOver}>
        <span className={`figures block text-lg font-semibold ${bought ? 'text-muted line-through' : ''}`}>
          {toTake(item)}
        </span>
        <span className="block">
          <span className="font-semibold">{item.name}</span>{' '}
          <span className="text-sm text-muted">{item.state}</span>
        </span>
        <span className="block text-sm text-muted">
          {[
            shopOf(cheapest),
            cheapest ? `${weight(item.to_buy_g)} to buy` : '',
            item.picked,
            item.in_house_g ? `${weight(item.in_house_g)} in the house` : '',
            item.buy_early || item.keeps_days === null ? '' : `keeps about ${plural(item.keeps_days, 'day')}`,
            cheapest ? oldWords(cheapest) : '',
          ]
            .filter(Boolean)
            .join('; ')}
        </span>
        {bought ? (
          <span className="block text-sm">
            In the basket: {boughtWords(bought, item.food_id)}
            {state.bought_by.length ? `, ${state.bought_by.join(' and ')}` : ''}
          </span>
        ) : null}
        {state.doubly ? (
          <span className="block text-sm font-semibold text-alert">
            Two of you have this in the basket: put one back, or keep both.
          </span>
        ) : null}
        {state.is_missing ? (
          <span className="block text-sm font-semibold text-alert">
            Not there: see what could be bought instead.
          </span>
        ) : null}
        {state.note ? <span className="block text-sm italic">{state.note}</span> : null}
      </Basket>
      <div className="flex items-center gap-1 pr-1">
        <span className="figures text-right max-sm:hidden">
          {bought?.cost != null ? price(bought.cost) : cheapest?.cost != null ? price(cheapest.cost) : ''}
        </span>
        {isOver ? null : (
          <Button look="quiet" className="min-h-14 !px-3" aria-label={`${item.name}: more`} onClick={onMore}>
            <span aria-hidden>⋯</span>
          </Button>
        )}
      </div>
    </li>
  );
}

/** Something that was added by hand. */
export function OwnRow({ one, note, isOver }: Shared & { one: Schemas['OwnItem'] }) {
  const isIn = one.state.bought !== null;
  return (
    <li
      aria-label={one.name}
      className={`grid grid-cols-[minmax(0,1fr)_auto] items-center ${isIn ? 'bg-bench' : 'bg-sheet'}`}
    >
      <Basket
        isIn={isIn}
        label={one.name}
        isOver={isOver}
        onToggle={() =>
          void (isIn
            ? note(`${one.name}: out of the basket`, { item: one.item, event: 'not bought', text: '' })
            : note(`${one.name}: in the basket`, {
                item: one.item,
                event: 'bought',
                text: '',
                bought: { food_id: one.item, grams: 1, packs: [] },
              }))
        }
      >
        <span className={`block text-lg ${isIn ? 'text-muted line-through' : ''}`}>{one.name}</span>
      </Basket>
      {isOver ? null : (
        <Button
          look="quiet"
          className="min-h-14 !px-3"
          aria-label={`Remove ${one.name}`}
          onClick={() =>
            void note(`Off the list: ${one.name}`, { item: one.item, event: 'removed', text: '' })
          }
        >
          ×
        </Button>
      )}
    </li>
  );
}

function Basket({
  isIn,
  label,
  isOver,
  onToggle,
  children,
}: {
  isIn: boolean;
  label: string;
  isOver: boolean;
  onToggle: () => void;
  children: ReactNode;
}) {
  return (
    <label className="flex min-h-16 cursor-pointer items-start gap-3 py-2 pl-1">
      <input
        type="checkbox"
        className="mt-1 size-8 shrink-0 accent-ink"
        aria-label={`${label} in the basket`}
        checked={isIn}
        disabled={isOver}
        onChange={onToggle}
      />
      <span className="min-w-0">{children}</span>
    </label>
  );
}
