import { type FormEvent, useState } from 'react';
import type { Problem } from '~/api/client';
import { Button } from '~/parts/button';
import { Field, Tick } from '~/parts/field';
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
      {component.packed_raw ? (
        <KitText
          key={component.kit_text}
          text={component.kit_text}
          onSave={(kit_text) =>
            desk.change((now) => {
              const { packed_raw, whole_pans } =
                now.components.find((one) => one.id === component.id) ?? component;
              return [{ kind: 'pot', component_id: component.id, packed_raw, whole_pans, kit_text }];
            })
          }
        />
      ) : null}
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

/** How what is packed raw is cooked later: it stands on its label. */
function KitText({ text, onSave }: { text: string; onSave: (text: string) => Promise<Problem | null> }) {
  const [typed, setTyped] = useState(text);
  const [fault, setFault] = useState<string | null>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const problem = await onSave(typed);
    setFault(problem?.errors?.[0]?.message ?? problem?.detail ?? null);
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="space-y-2">
      <Field
        label="How it is cooked later"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        fault={fault}
      />
      {typed === text ? null : <Button type="submit">Save the text</Button>}
    </form>
  );
}
