import { HistoryPanel } from '~/views/batch/frame/history-panel';
import type { Plan, PlanDesk } from '~/views/batch/frame/use-plan';
import { SettleList, WeighList } from '~/views/batch/next-steps';
import { BatchPanel } from '~/views/batch/plan/batch-panel';
import { ComponentPanel } from '~/views/batch/plan/component-panel';
import { ReachMap } from '~/views/batch/plan/reach-map';
import { RowPanel } from '~/views/batch/plan/row-panel';

/** What the side panel shows: `row:…` and `component:…` in the address, so that it is there after a reload. */
export type Aside =
  | { show: 'settle' }
  | { show: 'brief' }
  | { show: 'weigh' }
  | { show: 'reach' }
  | { show: 'history' }
  | { show: 'row' | 'component'; id: string };

export const addressOf = (aside: Aside) => ('id' in aside ? `${aside.show}:${aside.id}` : aside.show);

export function panelOf(address: string | undefined): Aside {
  const [show = '', id = ''] = (address ?? '').split(':');
  if ((show === 'row' || show === 'component') && id) return { show, id };
  return show === 'brief' || show === 'weigh' || show === 'reach' || show === 'history'
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
  if (aside.show === 'brief') return <BatchPanel plan={plan} desk={desk} onClose={close} />;
  if (aside.show === 'history') return <HistoryPanel plan={plan} desk={desk} onClose={close} />;
  if (aside.show === 'reach') return <ReachMap plan={plan} onClose={close} />;
  if (aside.show === 'weigh')
    return <WeighList plan={plan} onOpen={(id) => onShow({ show: 'component', id })} onClose={close} />;
  return <SettleList plan={plan} onShow={onShow} />;
}
