import { moment, plural, weight } from '~/lib/format';
import { Notice } from '~/parts/notice';
import type { Aside } from '~/views/batch/aside-panel';
import { Panel } from '~/views/batch/frame/panel';
import type { Plan } from '~/views/batch/frame/use-plan';
import { hasOpenGroup } from '~/views/batch/plan/dishes';

/** What the leftovers of the weighed pots would fill, where the coach wants that. */
export function Extra({ plan }: { plan: Plan }) {
  if (plan.batch.leftover !== 'extra containers') return null;
  return plan.dishes.map(({ id, name, extra }) => (
    <Panel
      key={id}
      title={extra ? `${plural(extra.count, 'extra container')}` : 'Extra containers'}
      detail={plan.dishes.length > 1 ? name : ''}
    >
      <p className="text-sm">
        {extra === null
          ? 'Weigh every component to see how many containers the leftovers fill.'
          : extra.count === 0
            ? 'What is left over fills no further container like these.'
            : `Each of ${weight(extra.total_g)}: ${extra.parts.join(', ')}. They belong to nobody yet.`}
      </p>
    </Panel>
  ));
}

export function SettleList({ plan, onShow }: { plan: Plan; onShow: (aside: Aside) => void }) {
  if (plan.batch.packed_at !== null) {
    return (
      <Panel title="Packed" detail={moment(plan.batch.packed_at)}>
        <p className="text-sm">This batch is closed. Open it again to change it.</p>
      </Panel>
    );
  }
  if (plan.to_settle.length === 0) {
    return (
      <Panel
        title={plan.rows.some((row) => row.gauges.length > 0) ? 'Every target is met' : 'Nothing to settle'}
      >
        <p className="text-sm">
          Cook what the heads of the columns say, then open a component and weigh what came out: the grams
          follow.
        </p>
      </Panel>
    );
  }
  return (
    <>
      {plan.to_settle.map((one) => {
        const row = plan.rows.find((other) => other.id === one.row_id);
        const open = row !== undefined && hasOpenGroup(plan, row);
        return (
          <Notice key={`${one.row_id} ${one.component_id} ${one.title}`} tone="alert" title={one.title}>
            <p>{one.detail}</p>
            {open ? (
              <button
                type="button"
                className="mt-1 mr-4 min-h-9 font-medium underline"
                onClick={() => onShow({ show: 'dish', id: row.dish_id })}
              >
                Spread them
              </button>
            ) : null}
            {one.row_id || one.component_id ? (
              <button
                type="button"
                className="mt-1 min-h-9 font-medium underline"
                onClick={() =>
                  onShow(
                    one.row_id
                      ? { show: 'row', id: one.row_id }
                      : { show: 'component', id: one.component_id ?? '' },
                  )
                }
              >
                {open ? 'Choose' : one.row_id ? 'Ways out' : 'Look inside'}
              </button>
            ) : null}
          </Notice>
        );
      })}
    </>
  );
}
