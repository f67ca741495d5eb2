import type { ReactNode } from 'react';
import type { Schemas } from '~/api/client';
import { exactGrams, plural, weight, wholeNumber } from '~/lib/format';
import { isServerAway } from '~/offline/outbox';
import { useOutbox } from '~/offline/use-outbox';
import { Button } from '~/parts/button';
import {
  type Cell,
  type Filling,
  inOrder,
  isToCome,
  type Order,
  type Place,
  sameBox,
} from '~/views/batch/fill/sequence';

const MACROS = [
  ['protein_g', 'Protein'],
  ['carbohydrate_g', 'Carbohydrate'],
  ['fat_g', 'Fat'],
] as const;

/** Beside the figure: this container so far, what comes after, what the pots have left. */
export function Beside({
  filling,
  cell,
  order,
  place,
  toHandIn,
  onPots,
  ingredients,
  others,
}: {
  filling: Filling;
  cell: Cell;
  order: Order;
  place: Place;
  toHandIn: number;
  onPots: () => void;
  /** Those of what is built raw. */
  ingredients: ReactNode;
  /** What is packed another day. */
  others: ReactNode;
}) {
  return (
    <div className="space-y-3 overflow-y-auto">
      <Standing filling={filling} toHandIn={toHandIn} />
      <div className="flex gap-2 *:min-w-0 *:flex-1 *:px-2 *:leading-tight *:whitespace-normal">
        <Button className="min-h-16" onClick={onPots}>
          Pots, rests, scoops
        </Button>
        {others}
      </div>
      {ingredients}
      <SoFar cell={cell} />
      <After filling={filling} order={order} place={place} />
      <Pots pots={potsOf(filling, cell)} isPacked={filling.is_packed} />
    </div>
  );
}

/** How far the batch is, and what the server does not have yet. */
function Standing({ filling, toHandIn }: { filling: Filling; toHandIn: number }) {
  const isAway = isServerAway(useOutbox());
  const closed = filling.containers.filter((box) => box.is_closed).length;
  return (
    <p className="text-sm">
      <b>
        {closed} of {plural(filling.containers.length, 'container')} closed
        {filling.is_packed ? ', packed' : ''}
      </b>
      <span role="status" className="block text-muted">
        {toHandIn
          ? `${plural(toHandIn, 'fill')} wait${toHandIn === 1 ? 's' : ''} to be handed in`
          : 'All handed in'}
      </span>
      {isAway ? (
        <span className="block text-muted">
          Without the server: what a pot lacks is taken from the same component, later, and “so far” is
          without what waits. All is solved anew when it answers.
        </span>
      ) : null}
    </p>
  );
}

/** The pots of this container, and those that do not reach. */
const potsOf = (filling: Filling, { box }: Cell) =>
  filling.pots.filter(
    (pot) =>
      (pot.is_weighed && pot.short_g >= TOLD_FROM_G) ||
      box.parts.some((part) => part.component_ids.includes(pot.component_id)),
  );

function SoFar({ cell: { box } }: { cell: Cell }) {
  return (
    <section aria-labelledby="so-far">
      <h2 id="so-far" className="text-base">
        This container so far
      </h2>
      <dl>
        {MACROS.map(([key, word]) => {
          const gauge = box.gauges.find((one) => one.nutrient === key);
          const range = box.so_far.ranges[key];
          return (
            <div key={key} className="flex justify-between border-t border-steel py-1">
              <dt>{word}</dt>
              <dd className="figures font-bold">
                {range ? `~${wholeNumber(box.so_far[key])}` : wholeNumber(box.so_far[key])}
                {gauge ? ` / ${wholeNumber(gauge.target)}` : ''}
              </dd>
            </div>
          );
        })}
      </dl>
    </section>
  );
}

const SHOWN_AHEAD = 3;

function After({ filling, order, place }: { filling: Filling; order: Order; place: Place }) {
  const cells = inOrder(filling, order);
  const at = cells.findIndex(
    (one) =>
      sameBox({ row: one.box.row_id, number: one.box.number, part: '' }, place) &&
      one.part.component_id === place.part,
  );
  const ahead = cells
    .slice(at + 1)
    .filter(isToCome)
    .slice(0, SHOWN_AHEAD);
  if (ahead.length === 0) return null;
  return (
    <section aria-labelledby="after">
      <h2 id="after" className="text-base">
        After this
      </h2>
      <ol>
        {ahead.map(({ box, part }) => (
          <li
            key={`${box.row_id} ${box.number} ${part.component_id}`}
            className="flex justify-between gap-2 border-t border-steel py-1"
          >
            <span className="min-w-0">
              {part.name}
              {box.row_id === place.row && box.number === place.number ? null : (
                <span className="block text-sm text-muted">
                  {box.client}, {box.number} of {box.of}
                </span>
              )}
            </span>
            <span className="figures font-bold">{exactGrams(part.grams)}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Pots({ pots, isPacked }: { pots: Schemas['FillPotView'][]; isPacked: boolean }) {
  return (
    <section aria-labelledby="pots">
      <h2 id="pots" className="text-base">
        Left in the pots
      </h2>
      <dl>
        {pots.map((pot) => (
          <div
            key={pot.component_id}
            className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-2 border-t border-steel py-1"
          >
            <dt>{pot.name}</dt>
            <dd className="figures font-bold">
              {pot.is_weighed ? '' : '~'}
              {weight(pot.left_g)}
            </dd>
            {isPacked ? null : <dd className="col-span-2 text-sm text-muted">{potWords(pot)}</dd>}
          </div>
        ))}
      </dl>
    </section>
  );
}

const TOLD_FROM_G = 1;

/** Whether a pot reaches, in words; what is short is spread already. */
function potWords(pot: Schemas['FillPotView']): string {
  if (!pot.is_weighed) return 'not weighed yet';
  if (pot.short_g >= TOLD_FROM_G) return `${weight(pot.short_g)} short, spread over those to come`;
  return pot.over_g >= TOLD_FROM_G ? `${weight(pot.over_g)} will be over` : 'just enough';
}
