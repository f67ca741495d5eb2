import { useRef, useState } from 'react';
import { api, ask } from '~/api/client';
import type { Change, Plan } from '~/views/batch/frame/use-plan';

/**
 * The plan as it would be, while a figure is being dragged. Only the newest wish is sent once the one before it is
 * answered, so the hand never runs ahead of the server; nothing of it is kept.
 */
export function usePreview(batchId: string) {
  const [plan, setPlan] = useState<Plan | null>(null);
  const wish = useRef<{ version: number; changes: Change[]; confirmed: boolean } | null>(null);
  const asking = useRef(false);
  const following = useRef(Promise.resolve());
  const drag = useRef(0);

  const follow = async () => {
    asking.current = true;
    while (wish.current) {
      const [body, current] = [wish.current, drag.current];
      wish.current = null;
      try {
        const answer = await ask(
          api.POST('/api/v1/batches/{batch_id}/preview', { params: { path: { batch_id: batchId } }, body }),
        );
        if (current === drag.current) setPlan(answer);
      } catch {
        // What is refused here is refused, in words, when the figure is let go.
        break;
      }
    }
    asking.current = false;
  };

  return {
    plan,
    /** Ask what these would do, also where they are hard to believe; settles when nothing is asked any more. */
    show: (version: number, changes: Change[], confirmed = false): Promise<void> => {
      wish.current = { version, changes, confirmed };
      if (!asking.current) following.current = follow();
      return following.current;
    },
    end: async () => {
      drag.current += 1;
      wish.current = null;
      setPlan(null);
    },
  };
}
