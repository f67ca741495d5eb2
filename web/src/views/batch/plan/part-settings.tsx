import { exactWeight } from '~/lib/format';
import { PLACES } from '~/lib/schools';
import { Choice } from '~/parts/choice';
import type { PlanDesk } from '~/views/batch/frame/use-plan';
import { type Dish, type DishPart, partOf } from '~/views/batch/plan/dishes';
import { InlineNumber } from '~/views/batch/plan/inline-number';
import { Portioning } from '~/views/batch/plan/portioning';

const boundsOf = ({ id, dish_id, minimum_g, maximum_g }: DishPart) => ({
  kind: 'bounds' as const,
  component_id: id,
  dish_id,
  minimum_g,
  maximum_g,
});

const placeOf = ({ id, dish_id, place, tub_ml, takes_g, group }: DishPart) => ({
  kind: 'place' as const,
  component_id: id,
  dish_id,
  place,
  tub_ml,
  takes_g,
  group,
});

/** How a component gets into the containers of one dish: portioned how, least and most, where, one of which group. */
export function PartSettings({
  dish,
  part,
  shared,
  closed,
  desk,
}: {
  dish: Dish;
  part: DishPart;
  shared: boolean;
  closed: boolean;
  desk: PlanDesk;
}) {
  const of = `${dish.id}/${part.id}`;
  const bounds = (figures: Partial<ReturnType<typeof boundsOf>>) =>
    desk.change((now) => [{ ...boundsOf(partOf(now, part, part.id) ?? part), ...figures }]);
  const place = (figures: Partial<ReturnType<typeof placeOf>>) =>
    desk.change((now) => [{ ...placeOf(partOf(now, part, part.id) ?? part), ...figures }]);
  return (
    <section aria-label={`In ${dish.name}`} className="space-y-3 border-t border-steel pt-3">
      {shared ? <h3 className="text-lg">In {dish.name}</h3> : null}
      <Portioning part={part} closed={closed} desk={desk} />
      <div className="grid grid-cols-2 gap-3">
        <InlineNumber
          of={of}
          label="At least"
          unit="g"
          value={part.minimum_g}
          disabled={closed}
          onCommit={(value) => bounds({ minimum_g: (value ?? 0) as number })}
        />
        <InlineNumber
          of={of}
          label="At most"
          unit="g"
          value={part.maximum_g}
          disabled={closed}
          placeholder={`usual ${exactWeight(part.usual_most_g)}`}
          onCommit={(value) => bounds({ maximum_g: value as number | null })}
        />
      </div>
      <Choice
        label="Where it goes"
        options={PLACES}
        value={part.place}
        disabled={closed}
        onValue={(chosen) => void place({ place: chosen })}
      />
      {part.place === 'beside' ? (
        <InlineNumber
          of={of}
          label="Its tub holds"
          unit="ml"
          value={part.tub_ml}
          disabled={closed}
          onCommit={(value) => place({ tub_ml: value === null ? null : Number(value) })}
        />
      ) : null}
      {shared ? (
        <InlineNumber
          of={of}
          label={`Set aside for ${dish.name}`}
          unit="g"
          value={part.takes_g}
          placeholder="as needed"
          disabled={closed}
          onCommit={(value) => place({ takes_g: value as number | null })}
        />
      ) : null}
      {dish.groups.length ? (
        <Choice
          label="One of the group"
          options={[
            { value: '', label: 'of none: in every container' },
            ...dish.groups.map((group) => ({ value: group.name, label: group.name })),
          ]}
          value={part.group ?? ''}
          disabled={closed}
          onValue={(chosen) => void place({ group: chosen || null })}
        />
      ) : null}
    </section>
  );
}
