import { describe, expect, it } from 'vitest';
import {
  type Box,
  type BoxPart,
  type Cell,
  type Filling,
  inOrder,
  nextToCome,
  placeOf,
} from '~/views/batch/fill/sequence';
import { type Sent, withFills } from '~/views/batch/fill/waiting';

const part = (component_id: string, grams = 100, more: Partial<BoxPart> = {}) =>
  ({
    component_id,
    component_ids: [component_id],
    name: component_id,
    place: 'in the container',
    grams,
    planned_g: grams,
    stop_low_g: grams - 5,
    stop_high_g: grams + 5,
    filled: null,
    others: [],
    ...more,
  }) as unknown as BoxPart;

const box = (client: string, number: number, parts: BoxPart[], more: Partial<Box> = {}) =>
  ({
    row_id: client,
    client_id: client,
    client,
    number,
    of: 2,
    parts,
    is_first: false,
    is_closed: false,
    missed: [],
    ...more,
  }) as unknown as Box;

const pot = (component_id: string, left_g: number, needed_g: number) =>
  ({
    component_id,
    left_g,
    needed_g,
    is_weighed: true,
    short_g: 0,
    over_g: 0,
  }) as unknown as Filling['pots'][number];

const filling = (containers: Box[], pots: Filling['pots'] = []) =>
  ({ containers, pots, facts: 0, version: 1 }) as unknown as Filling;

const BENCH = filling([
  box('cleo', 1, [part('beans')], { is_first: true }),
  box('ada', 1, [part('rice'), part('beans')]),
  box('bram', 1, [part('rice'), part('beans')]),
  box('ada', 2, [part('rice'), part('beans')]),
]);
const told = (cells: Cell[]) =>
  cells.map((cell) => `${cell.box.client}${cell.box.number} ${cell.part.name}`).join(', ');

describe('the order on the bench', () => {
  it('is by container, by part or by client, and who must not eat something comes first in each', () => {
    expect(told(inOrder(BENCH, 'container'))).toBe(
      'cleo1 beans, ada1 rice, ada1 beans, bram1 rice, bram1 beans, ada2 rice, ada2 beans',
    );
    expect(told(inOrder(BENCH, 'part'))).toBe(
      'cleo1 beans, ada1 rice, bram1 rice, ada2 rice, ada1 beans, bram1 beans, ada2 beans',
    );
    expect(told(inOrder(BENCH, 'client'))).toBe(
      'cleo1 beans, ada1 rice, ada1 beans, ada2 rice, ada2 beans, bram1 rice, bram1 beans',
    );
  });

  it('goes on to what is still to come, and comes back to what was left', () => {
    const cells = inOrder(BENCH, 'container');
    const at = (place: number) => placeOf(cells[place] as Cell);
    expect(told([nextToCome(cells, at(2)) as Cell])).toBe('bram1 rice');
    expect(told([nextToCome(cells, at(6)) as Cell])).toBe('cleo1 beans');
    expect(nextToCome(cells.slice(0, 1), at(0))).toBe(null);
  });
});

const fact = (
  client: string,
  number: number,
  component_id: string,
  grams: number,
  more: Partial<Sent> = {},
) =>
  ({
    id: `${client}${number}${component_id}`,
    event: 'filled',
    row_id: client,
    container: number,
    component_id,
    grams,
    ...more,
  }) as Sent;

describe('a part of which nothing is left to go in', () => {
  const spent = filling([box('ada', 1, [part('rice'), part('beans')])], [pot('beans', 0, 100)]);

  it('is stopped at, and only then is its container closed', () => {
    const before = withFills(spent, [fact('ada', 1, 'rice', 100)], 'Ada');
    expect(before.containers[0]?.parts[1]?.grams).toBe(0);
    expect(before.containers[0]?.is_closed).toBe(false);
    const cells = inOrder(before, 'container');
    expect(nextToCome(cells, placeOf(cells[0] as Cell))?.part.name).toBe('beans');
    const after = withFills(spent, [fact('ada', 1, 'rice', 100), fact('ada', 1, 'beans', 0)], 'Ada');
    expect(after.containers[0]?.is_closed).toBe(true);
  });
});

describe('what waits to be handed in', () => {
  const two = filling(
    [box('ada', 1, [part('rice')]), box('ada', 2, [part('rice')]), box('bram', 1, [part('rice')])],
    [pot('rice', 300, 300)],
  );

  it('is in already, and what it took too much of comes off those to come, evenly', () => {
    const found = withFills(two, [fact('ada', 1, 'rice', 120)], 'Ada');
    expect(found.containers.map((one) => one.parts[0]?.grams)).toEqual([120, 90, 90]);
    expect(found.containers[0]).toMatchObject({ is_closed: true });
    expect(found.pots[0]).toMatchObject({ left_g: 180, needed_g: 200 });
  });

  it('moves nothing while the pot has enough', () => {
    const enough = { ...two, pots: [pot('rice', 400, 300)] };
    const found = withFills(enough, [fact('ada', 1, 'rice', 120)], 'Ada');
    expect(found.containers.map((one) => one.parts[0]?.grams)).toEqual([120, 100, 100]);
  });

  it('is out again once it is taken back, here or on the server', () => {
    const filled = fact('ada', 1, 'rice', 120);
    const back = { id: 'z', event: 'taken back', of: filled.id } as Sent;
    expect(withFills(two, [filled, back], 'Ada').containers[0]?.parts[0]?.filled).toBe(null);
    const known = withFills(two, [filled], 'Ada');
    const other = withFills(known, [{ ...back, of: filled.id }], 'Ada');
    expect(other.containers[0]?.parts[0]).toMatchObject({ filled: null, grams: 100 });
  });
});
