import { useNavigate } from '@tanstack/react-router';
import type { Stage } from '~/views/batch/frame/stage-line';

/** Go to a stage of a batch: Shop, Cook, Weigh, Fill and Hand over have pages of their own, the others are panels beside the plan. */
export function useStages(batchId: string) {
  const navigate = useNavigate();
  return (to: Stage) => {
    const params = { batchId };
    if (to === 'shop') void navigate({ to: '/batches/$batchId/shop', params });
    else if (to === 'weigh') void navigate({ to: '/batches/$batchId/weigh', params, search: {} });
    else if (to === 'fill') void navigate({ to: '/batches/$batchId/fill', params });
    else if (to === 'hand-over') void navigate({ to: '/batches/$batchId/hand-over', params, search: {} });
    else if (to === 'cook') void navigate({ to: '/batches/$batchId/cook', params });
    else void navigate({ to: '/batches/$batchId', params, search: to === 'plan' ? {} : { panel: to } });
  };
}
