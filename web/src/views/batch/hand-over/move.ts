import type { HandOverDesk, Move } from '~/views/batch/hand-over/use-hand-over';
import { containerName, type Placed, shortDay, type Week } from '~/views/batch/hand-over/words';

/** A container that waits for a day again. */
export const withoutDay = (one: Placed): Move => ({
  row_id: one.row_id,
  container: one.number,
  eaten_on: null,
  store: null,
  by_hand: false,
});

/** Put a container on a day; one that is eaten at the same meal of that day takes its place. */
export function moveTo(
  desk: HandOverDesk,
  week: Week,
  one: Placed,
  on: string,
  store: Placed['store'] = null,
): Promise<unknown> {
  const there = week.days
    .find((found) => found.on === on)
    ?.containers.find(
      (box) => box.slot === one.slot && !(box.row_id === one.row_id && box.number === one.number),
    );
  const to = (box: Placed, eaten_on: string | null, where: Placed['store']) => ({
    row_id: box.row_id,
    container: box.number,
    eaten_on,
    store: where,
    by_hand: eaten_on !== null,
  });
  const moves = [to(one, on, store)];
  if (!there) return desk.move(moves, [one], `${containerName(one)} to ${shortDay(on)}`);
  return desk.move(
    [...moves, to(there, one.eaten_on, null)],
    [one, there],
    `${containerName(one)} to ${shortDay(on)}, ${containerName(there)} ${
      one.eaten_on ? `to ${shortDay(one.eaten_on)}` : 'waits for a day'
    }`,
  );
}
