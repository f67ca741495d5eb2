import type { Schemas } from '~/api/client';
import type { Box, BoxPart, Filling } from '~/views/batch/fill/sequence';

export type Sent = Schemas['FillFactInput'];
type Filled = NonNullable<BoxPart['filled']>;

const OF_A_PART: Sent['event'][] = ['filled', 'left out', 'decided', 'corrected'];

/**
 * What has happened by facts that wait in this browser: nobody waits for the network to go on. What they take too much of
 * a pot is taken evenly from its containers still to come ("same component, later"); the server solves them anew.
 */
export function withFills(found: Filling, waiting: readonly Sent[], me: string): Filling {
  const gone = new Set(waiting.flatMap((fact) => (fact.event === 'taken back' && fact.of ? [fact.of] : [])));
  const facts = waiting.filter((fact) => fact.event !== 'taken back' && !gone.has(fact.id));
  if (waiting.length === 0) return found;
  const moved = new Map<string, number>();
  const containers = found.containers.map((box) => {
    const parts = box.parts.map((part) => {
      const isGone = part.filled !== null && gone.has(part.filled.fact_id);
      const base = isGone ? { ...part, filled: null, grams: part.planned_g } : part;
      const fact = facts.findLast(
        (one) =>
          OF_A_PART.includes(one.event) &&
          one.row_id === box.row_id &&
          one.container === box.number &&
          one.component_id === part.component_id,
      );
      const filled = fact ? filledBy(fact, me) : base.filled;
      const more = (filled?.grams ?? 0) - (part.filled?.grams ?? 0);
      moved.set(part.component_id, (moved.get(part.component_id) ?? 0) + more);
      return fact && filled ? { ...base, filled, grams: filled.grams } : base;
    });
    // Of several the last one says how many of the row are packed today.
    const bulk = facts.findLast((one) => one.event === 'kept in bulk' && one.row_id === box.row_id);
    return {
      ...box,
      parts,
      is_in_bulk: bulk ? box.number >= (bulk.container ?? 1) : box.is_in_bulk,
      is_closed: box.is_closed || parts.every((part) => part.filled),
    };
  });
  const pots = found.pots.map((pot) => ({
    ...pot,
    left_g: Math.max(pot.left_g - (moved.get(pot.component_id) ?? 0), 0),
    needed_g: neededOf(containers, pot.component_id),
  }));
  return { ...found, pots, containers: pots.reduce(lessOf, containers) };
}

function filledBy(fact: Sent, me: string): Filled {
  return {
    fact_id: fact.id,
    grams: fact.event === 'left out' ? 0 : Number(fact.grams ?? 0),
    unsure_g: Number(fact.unsure_g ?? 0),
    units: fact.units ?? null,
    way: fact.way ?? null,
    is_left_out: fact.event === 'left out',
    text: fact.text ?? '',
    made_by: me,
    happened_at: fact.happened_at ?? '',
  };
}

const toCome = (part: BoxPart, component: string) => part.component_id === component && part.filled === null;

const neededOf = (boxes: Box[], component: string) =>
  boxes.reduce(
    (sum, box) =>
      sum + box.parts.reduce((more, part) => more + (toCome(part, component) ? part.grams : 0), 0),
    0,
  );

/** The same component, later: what a pot lacks is taken from its containers still to come, each the same share. */
function lessOf(boxes: Box[], pot: Filling['pots'][number]): Box[] {
  if (!pot.is_weighed || pot.needed_g <= pot.left_g || pot.needed_g === 0) return boxes;
  const share = pot.left_g / pot.needed_g;
  return boxes.map((box) => ({
    ...box,
    parts: box.parts.map((part) =>
      toCome(part, pot.component_id) ? { ...part, grams: Math.floor(part.grams * share) } : part,
    ),
  }));
}
