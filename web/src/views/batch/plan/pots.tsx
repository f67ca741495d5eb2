import { weight } from '~/lib/format';
import { Button } from '~/parts/button';
import { Notice } from '~/parts/notice';
import { Panel } from '~/views/batch/frame/panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { dishesWith, partsOf } from '~/views/batch/plan/dishes';

/** Every pot of a batch of several dishes, once, with where it goes. */
export function Pots({ plan, onOpen }: { plan: Plan; onOpen: (id: string) => void }) {
  if (plan.dishes.length < 2) return null;
  return (
    <Panel title="Pots">
      <ul>
        {plan.components
          .filter((component) => component.to_weigh)
          .map((component) => {
            const dishes = dishesWith(plan, component.id);
            const takes = dishes.map((dish) => {
              const part = partsOf(plan, dish).find((one) => one.id === component.id);
              return `${dish.name} ${weight(part?.taken_g ?? 0)}`;
            });
            return (
              <li key={component.id} className="border-t border-steel first:border-0">
                <button
                  type="button"
                  onClick={() => onOpen(component.id)}
                  className="block min-h-11 w-full py-1 text-left hover:underline"
                >
                  <span className="flex justify-between gap-2">
                    <span className="font-medium">{component.name}</span>
                    <span className="figures">
                      {component.weighing ? '' : '~'}
                      {weight(component.cooked_g)}
                    </span>
                  </span>
                  {dishes.length > 1 ? (
                    <span className="block text-sm text-muted">
                      {dishes.length} dishes: {takes.join(', ')}
                    </span>
                  ) : null}
                </button>
              </li>
            );
          })}
      </ul>
    </Panel>
  );
}

/** Components of several dishes that are made of the same: both can be cooked in one pot. */
export function OnePot({ plan, desk }: { plan: Plan; desk: PlanDesk }) {
  if (plan.shareable.length === 0) return null;
  return (
    <Panel title="Cook in one pot?">
      <ul className="space-y-3">
        {plan.shareable.map((pair) => (
          <li key={`${pair.component_id} ${pair.other_id}`} className="text-sm">
            <p className="mb-1">{pair.words}.</p>
            <Button
              className="w-full"
              onClick={() =>
                void desk.act(() => [
                  {
                    kind: 'share-pot',
                    component_id: pair.other_id,
                    with_component_id: pair.component_id,
                  },
                ])
              }
            >
              Cook both in one pot
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** Components that are out of the day's plan; nothing of them is lost. */
export function OutOfPlan({ plan, desk }: { plan: Plan; desk: PlanDesk }) {
  return plan.aside.map((component) => (
    <Notice key={component.id} tone="caution" title={`${component.name} is out of the plan`}>
      <p className="mb-2">It is a part of {component.dishes.join(' and ')}, and is not cooked this time.</p>
      {plan.batch.packed_at === null ? (
        <Button
          onClick={() => void desk.act(() => [{ kind: 'aside', component_id: component.id, aside: false }])}
        >
          Take it back into the plan
        </Button>
      ) : null}
    </Notice>
  ));
}
