import { HistoryPanel } from '~/views/batch/frame/history-panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { SettleList } from '~/views/batch/next-steps';
import { BatchPanel } from '~/views/batch/plan/batch-panel';
import { ComponentPanel } from '~/views/batch/plan/component-panel';
import { AddDishPanel, DishPanel } from '~/views/batch/plan/dish-panel';
import { ReachMap } from '~/views/batch/plan/reach-map';
import { RowPanel } from '~/views/batch/plan/row-panel';

/** What the side panel shows: `row:…` and `component:…` in the address, so that it is there after a reload. */
export type Aside =
  | { show: 'settle' }
  | { show: 'brief' }
  | { show: 'reach' }
  | { show: 'history' }
  | { show: 'add-dish' }
  | { show: 'row' | 'component' | 'dish'; id: string };

export const addressOf = (aside: Aside) => ('id' in aside ? `${aside.show}:${aside.id}` : aside.show);

export function panelOf(address: string | undefined): Aside {
  const [show = '', id = ''] = (address ?? '').split(':');
  if ((show === 'row' || show === 'component' || show === 'dish') && id) return { show, id };
  return show === 'brief' || show === 'reach' || show === 'history' || show === 'add-dish'
    ? { show }
    : { show: 'settle' };
}

export function AsidePanel({
  plan,
  aside,
  desk,
  onShow,
}: {
  plan: Plan;
  aside: Aside;
  desk: PlanDesk;
  onShow: (aside: Aside) => void;
}) {
  const close = () => onShow({ show: 'settle' });
  const closed = plan.batch.packed_at !== null;
  if (aside.show === 'component') {
    const component = plan.components.find((one) => one.id === aside.id);
    if (component) {
      return (
        <ComponentPanel
          key={component.id}
          plan={plan}
          component={component}
          closed={closed}
          desk={desk}
          onClose={close}
        />
      );
    }
  }
  if (aside.show === 'row') {
    const row = plan.rows.find((one) => one.id === aside.id);
    if (row) return <RowPanel key={row.id} plan={plan} row={row} desk={desk} onClose={close} />;
  }
  if (aside.show === 'dish') {
    const dish = plan.dishes.find((one) => one.id === aside.id);
    if (dish) return <DishPanel key={dish.id} plan={plan} dish={dish} desk={desk} onClose={close} />;
  }
  if (aside.show === 'add-dish')
    return (
      <AddDishPanel plan={plan} desk={desk} onClose={close} onDish={(id) => onShow({ show: 'dish', id })} />
    );
  if (aside.show === 'brief') return <BatchPanel plan={plan} desk={desk} onClose={close} />;
  if (aside.show === 'history') return <HistoryPanel plan={plan} desk={desk} onClose={close} />;
  if (aside.show === 'reach') return <ReachMap plan={plan} onClose={close} />;
  return <SettleList plan={plan} onShow={onShow} />;
}
