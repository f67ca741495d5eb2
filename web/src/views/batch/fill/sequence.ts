import type { Schemas } from '~/api/client';

export type Filling = Schemas['FillView'];
export type Box = Schemas['FillContainerView'];
export type BoxPart = Schemas['FillPartView'];

/** How one goes along the bench. */
export type Order = 'container' | 'part' | 'client';
export const ORDERS: Record<Order, string> = {
  container: 'a container through all its parts',
  part: 'one part along all containers',
  client: 'a client at a time',
};

/** One part of one container, and where it stands. */
export type Place = { row: string; number: number; part: string };
export type Cell = { box: Box; part: BoxPart };

export const placeOf = ({ box, part }: Cell): Place => ({
  row: box.row_id,
  number: box.number,
  part: part.component_id,
});
export const isAt = (cell: Cell, place: Place) =>
  cell.box.row_id === place.row && cell.box.number === place.number && cell.part.component_id === place.part;
export const sameBox = (one: Place, other: Place) => one.row === other.row && one.number === other.number;

/**
 * Everything that is filled, in the order in which it is. Containers from which something stays out that must not be eaten
 * come first whatever the order: tools and hands are clean then.
 */
export function inOrder(filling: Filling, order: Order): Cell[] {
  const careful = filling.containers.filter((box) => box.is_first);
  const others = filling.containers.filter((box) => !box.is_first);
  return [careful, others].flatMap((boxes) => arranged(boxes, order));
}

function arranged(boxes: Box[], order: Order): Cell[] {
  const cells = (box: Box) => box.parts.map((part) => ({ box, part }));
  if (order === 'container') return boxes.flatMap(cells);
  if (order === 'client') return grouped(boxes, (box) => box.client_id).flatMap(cells);
  return grouped(boxes.flatMap(cells), (cell) => cell.part.component_id);
}

/** The same, those of one kind together, in the order in which the kinds come. */
function grouped<T>(list: T[], kind: (one: T) => string): T[] {
  const kinds = new Map<string, T[]>();
  for (const one of list) kinds.set(kind(one), [...(kinds.get(kind(one)) ?? []), one]);
  return [...kinds.values()].flat();
}

/** Still to be filled today; also where making good has left nothing of a part: somebody says so, and it is closed. */
export const isToCome = (cell: Cell) =>
  cell.part.filled === null && !cell.box.is_closed && !cell.box.is_in_bulk;

/** The next one that is still to come, from a place on and then from the beginning; null when all else is in. */
export function nextToCome(cells: Cell[], after: Place | null): Cell | null {
  const at = after ? cells.findIndex((cell) => isAt(cell, after)) : -1;
  const ahead = [...cells.slice(at + 1), ...cells.slice(0, Math.max(at, 0))];
  return ahead.find(isToCome) ?? null;
}

/** The one before or after, filled or not. */
export function beside(cells: Cell[], place: Place, steps: number): Cell | null {
  const at = cells.findIndex((cell) => isAt(cell, place));
  return at < 0 ? null : (cells[at + steps] ?? null);
}
