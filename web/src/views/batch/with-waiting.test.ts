import { describe, expect, it } from 'vitest';
import type { Change, Plan } from '~/views/batch/frame/use-plan';
import { withWaiting } from '~/views/batch/frame/with-waiting';
import { nudge, togglePin } from '~/views/batch/plan/columns';

const plan = {
  batch: { step_g: 5, packed_at: null },
  dishes: [
    {
      id: 'bowl',
      parts: [{ component_id: 'rice', unit_is_g: null, group: null, minimum_g: 0, maximum_g: 300 }],
    },
  ],
  components: [{ id: 'rice' }],
  rows: [
    {
      id: 'ada',
      dish_id: 'bowl',
      count: 5,
      capacity_ml: 900,
      target: { protein_g: 45, fat_g: 18 },
      cells: [{ component_id: 'rice', grams: 100, pinned_g: null, left_out: [] }],
    },
  ],
} as unknown as Plan;
const rice = { kind: 'cell', componentId: 'rice', unitG: null } as const;

/** Wishes made one after the other, each on the plan with those before it. */
function inTurn(...makers: ((now: Plan) => Change[])[]) {
  const all: Change[] = [];
  for (const make of makers) all.push(...make(withWaiting(plan, all)));
  return all;
}

describe('what waits counts for the next wish', () => {
  it('adds up steps', () => {
    const step = (now: Plan) => nudge(now, 'ada', rice, 1);
    expect(inTurn(step, step, step).map((one) => 'grams' in one && one.grams)).toEqual([105, 110, 115]);
  });

  it('frees what was just pinned', () => {
    const toggle = (now: Plan) => togglePin(now, 'ada', 'rice');
    expect(inTurn(toggle, toggle).map((one) => 'grams' in one && one.grams)).toEqual([100, null]);
  });

  it('keeps the least where the most is set next, also one that was typed as a sum', () => {
    const bounds = (part: object) => (now: Plan) => {
      const { minimum_g, maximum_g } = now.dishes[0]?.parts[0] ?? {};
      return [{ kind: 'bounds', component_id: 'rice', minimum_g, maximum_g, ...part } as unknown as Change];
    };
    expect(inTurn(bounds({ minimum_g: '20+30' }), bounds({ maximum_g: 260 })).at(-1)).toMatchObject({
      minimum_g: '20+30',
      maximum_g: 260,
    });
  });

  it('keeps every figure of a target and a container', () => {
    const target = (part: object) => (now: Plan) =>
      [{ kind: 'target', row_id: 'ada', ...now.rows[0]?.target, ...part }] as unknown as Change[];
    expect(inTurn(target({ protein_g: 50 }), target({ fat_g: 20 })).at(-1)).toMatchObject({
      protein_g: 50,
      fat_g: 20,
    });
    const count = (now: Plan) => nudge(now, 'ada', { kind: 'count' }, 1);
    expect(inTurn(count, count).at(-1)).toMatchObject({ count: 7, capacity_ml: 900 });
  });
});
