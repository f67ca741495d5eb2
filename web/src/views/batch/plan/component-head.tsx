import { YieldRibbon } from '~/food/yield-ribbon';
import { weight } from '~/lib/format';
import type { Plan } from '~/views/batch/frame/use-plan';
import { type DishPart, dishesWith, type Head, placeWords } from '~/views/batch/plan/dishes';

/** The head of a part's column: what it is, where it goes, and the yield ribbon of its pot. It opens the component. */
export function ComponentHead({
  plan,
  part,
  was,
  chosen,
  onOpen,
}: {
  plan: Plan;
  part: DishPart;
  was: number | undefined;
  chosen: boolean;
  onOpen: () => void;
}) {
  const others = dishesWith(plan, part.id).filter((dish) => dish.id !== part.dish_id);
  const place = placeWords(part);
  return (
    <th scope="col" className={`h-px border-r border-steel p-0 text-left ${chosen ? 'bg-chosen' : ''}`}>
      <button
        type="button"
        onClick={onOpen}
        className="flex h-full min-h-32 w-full flex-col justify-end px-2 py-2 text-left font-normal hover:bg-steel/40"
      >
        <span className="text-xs text-muted">{part.role}</span>
        <span className="mb-1.5 font-heading leading-tight font-bold break-words">{part.name}</span>
        {place ? <span className="mb-1 text-xs leading-tight text-muted">{place}</span> : null}
        {others.length ? (
          <span className="mb-1 w-fit rounded-md border border-edge px-1 text-xs leading-tight font-medium">
            shared {weight(part.taken_g)}
          </span>
        ) : null}
        {part.place === 'at eating' ? (
          <span className="figures text-xs">{weight(part.taken_g)} in all</span>
        ) : (
          <YieldRibbon
            basis={part.basis_g}
            low={part.cooked_low_g}
            cooked={part.cooked_g}
            high={part.cooked_high_g}
            factor={part.yield_factor}
            measured={part.weighing !== null}
          />
        )}
        {part.spare_g < -0.5 ? (
          <strong className="figures text-xs text-alert">{weight(-part.spare_g)} short</strong>
        ) : was !== undefined ? (
          <span className="figures text-xs text-muted">was {weight(was)}</span>
        ) : null}
      </button>
    </th>
  );
}

/** The head of a group: of which parts a container takes one or some, each with its pot. */
export function GroupHead({
  plan,
  head,
  chosen,
  onOpen,
}: {
  plan: Plan;
  head: Extract<Head, { kind: 'group' }>;
  chosen: string | null;
  onOpen: (id: string) => void;
}) {
  return (
    <th scope="col" colSpan={head.span} className="border-r border-steel px-2 py-2 text-left align-bottom">
      <span className="block text-xs font-normal text-muted">
        {head.span} of {head.members.length}
      </span>
      <span className="mb-1 block font-heading leading-tight font-bold">{head.name}</span>
      {head.members.map((part) => (
        <button
          key={part.id}
          type="button"
          onClick={() => onOpen(part.id)}
          className={`block min-h-7 w-full text-left text-xs leading-tight font-normal hover:underline ${part.id === chosen ? 'bg-chosen' : ''} ${part.taken_g > 0 ? '' : 'text-muted'}`}
        >
          <span className="font-medium">{part.name}</span>{' '}
          <span className="figures">{part.taken_g > 0 ? `~${weight(part.cooked_g)}` : 'not chosen'}</span>
          {dishesWith(plan, part.id).length > 1 ? ' shared' : ''}
        </button>
      ))}
    </th>
  );
}
