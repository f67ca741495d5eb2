import { Button } from '~/parts/button';
import { Tick } from '~/parts/field';
import type { PlanDesk } from '~/views/batch/frame/use-plan';
import type { Component, Dish } from '~/views/batch/plan/dishes';

/** What holds for a component in all its dishes, and taking it out: of the day's plan, or of a dish. */
export function PotSettings({
  component,
  dishes,
  closed,
  desk,
}: {
  component: Component;
  dishes: Dish[];
  closed: boolean;
  desk: PlanDesk;
}) {
  if (closed) return null;
  const set = (part: { packed_raw?: boolean; whole_pans?: boolean }) =>
    void desk.act((now) => {
      const { packed_raw, whole_pans, kit_text } =
        now.components.find((one) => one.id === component.id) ?? component;
      return [{ kind: 'pot', component_id: component.id, packed_raw, whole_pans, kit_text, ...part }];
    });
  return (
    <section aria-label="The pot" className="space-y-2 border-t border-steel pt-3">
      <Tick
        label="Only whole pans are cooked"
        checked={component.whole_pans}
        onChange={(whole_pans) => set({ whole_pans })}
      />
      <Tick
        label="Packed raw, to be cooked later"
        checked={component.packed_raw}
        onChange={(packed_raw) => set({ packed_raw })}
      />
      <Button
        className="w-full"
        onClick={() => void desk.act(() => [{ kind: 'aside', component_id: component.id, aside: true }])}
      >
        Leave it out of the day’s plan
      </Button>
      {dishes.map((dish) => (
        <Button
          key={dish.id}
          className="w-full"
          onClick={() =>
            void desk.act(() => [
              { kind: 'remove-part', dish_id: dish.id, component_id: component.id, removed: true },
            ])
          }
        >
          Take it out of {dish.name}
        </Button>
      ))}
    </section>
  );
}
