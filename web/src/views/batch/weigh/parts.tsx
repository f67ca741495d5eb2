import type { Schemas } from '~/api/client';
import { exactGrams, exactWeight } from '~/lib/format';
import { Button } from '~/parts/button';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';

type Component = Plan['components'][number];
type Vessel = Schemas['VesselView'];

/** What is in some vessels together [g]. */
export const sumOf = (vessels: Vessel[]) => vessels.reduce((sum, one) => sum + one.gross_g - one.vessel_g, 0);

/** The parts of a pot that were on the scale so far. */
export const partsOf = (component: Component): Vessel[] => component.weighed_parts ?? [];

/** What of a pot was on the scale while the rest was to come; it counts with what is weighed next. */
export function Parts({ component, desk }: { component: Component; desk: PlanDesk }) {
  const parts = partsOf(component);
  if (parts.length === 0) return null;
  const without = (place: number) =>
    desk.act((plan) => {
      const now = plan.components.filter((one) => one.id === component.id).flatMap(partsOf);
      return [
        {
          kind: 'weighed-parts',
          component_id: component.id,
          vessels: now.filter((_, at) => at !== place),
        },
      ];
    });
  return (
    <section aria-label="Weighed so far" className="mb-2 rounded-lg bg-sheet px-3 py-2">
      <p className="flex items-baseline justify-between gap-2">
        <span className="text-sm font-semibold">Weighed so far</span>
        <span className="figures font-bold">{exactWeight(sumOf(parts))}</span>
      </p>
      <ul>
        {parts.map((one, place) => (
          <li
            // biome-ignore lint/suspicious/noArrayIndexKey: two trays may weigh the same, so their place tells them apart
            key={place}
            className="flex items-center justify-between gap-2"
          >
            <span className="figures text-sm text-muted">
              {exactGrams(one.gross_g)}
              {one.vessel_g ? ` − ${exactGrams(one.vessel_g)}` : ''}
            </span>
            <Button
              look="quiet"
              aria-label={`Take ${exactWeight(one.gross_g - one.vessel_g)} off again`}
              onClick={() => void without(place)}
            >
              Take it off
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A part that came in after the whole pot was weighed: whether it is in that weight, somebody has to say. */
export function LateParts({ component, desk }: { component: Component; desk: PlanDesk }) {
  const { weighing } = component;
  const parts = partsOf(component);
  if (!weighing || parts.length === 0) return null;
  const component_id = component.id;
  return (
    <div className="mt-2 rounded-lg border-l-4 border-l-alert bg-sheet px-3 py-2 text-sm">
      <p className="font-semibold">
        A part of {exactWeight(sumOf(parts))} was weighed beside it. Is it in this weight?
      </p>
      <Button
        className="mt-1 min-h-16 w-full"
        onClick={() => void desk.act(() => [{ kind: 'weighed-parts', component_id, vessels: [] }])}
      >
        It is in
      </Button>
      <Button
        className="mt-1 min-h-16 w-full"
        onClick={() =>
          void desk.act(() => [
            {
              kind: 'weigh',
              component_id,
              vessels: weighing.vessels,
              removed_g: weighing.removed_g,
              corrects: true,
              with_parts: true,
            },
          ])
        }
      >
        Add it: {exactWeight(weighing.cooked_g + sumOf(parts))}
      </Button>
    </div>
  );
}
