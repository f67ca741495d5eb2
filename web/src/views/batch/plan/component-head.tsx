import { YieldRibbon } from '~/food/yield-ribbon';
import { weight } from '~/lib/format';
import type { Plan } from '~/views/batch/frame/use-plan';

/** The head of a component's column: what it is, and its yield ribbon. It opens the component. */
export function ComponentHead({
  component,
  was,
  chosen,
  onOpen,
}: {
  component: Plan['components'][number];
  was: number | undefined;
  chosen: boolean;
  onOpen: () => void;
}) {
  return (
    <th scope="col" className={`h-px border-r border-steel p-0 text-left ${chosen ? 'bg-chosen' : ''}`}>
      <button
        type="button"
        onClick={onOpen}
        className="flex h-full min-h-32 w-full flex-col justify-end px-2 py-2 text-left font-normal hover:bg-steel/40"
      >
        <span className="text-xs text-muted">{component.role}</span>
        <span className="mb-1.5 font-heading leading-tight font-bold break-words">{component.name}</span>
        <YieldRibbon
          basis={component.basis_g}
          low={component.cooked_low_g}
          cooked={component.cooked_g}
          high={component.cooked_high_g}
          factor={component.yield_factor}
          measured={component.weighing !== null}
        />
        {component.spare_g < -0.5 ? (
          <strong className="figures text-xs text-alert">{weight(-component.spare_g)} short</strong>
        ) : was !== undefined ? (
          <span className="figures text-xs text-muted">was {weight(was)}</span>
        ) : null}
      </button>
    </th>
  );
}
