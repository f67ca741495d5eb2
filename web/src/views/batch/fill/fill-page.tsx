import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from '@tanstack/react-router';
import { useEffect } from 'react';
import { sessionQuery } from '~/api/session';
import { Empty, LoadFailed, Loading } from '~/parts/notice';
import { useAwake } from '~/views/batch/cook/use-awake';
import { AtTheScale } from '~/views/batch/fill/at-the-scale';
import { FillSheet } from '~/views/batch/fill/fill-sheet';
import { useFills } from '~/views/batch/fill/use-fills';
import { withFills } from '~/views/batch/fill/waiting';
import { fillingQuery } from '~/views/batch/frame/queries';
import { StageLine } from '~/views/batch/frame/stage-line';
import { useStages } from '~/views/batch/frame/use-stages';
import { useToldOf } from '~/views/batch/frame/use-told-of';
import { planQuery } from '~/views/batches/queries';

/** Filling at the scale: how many grams still. */
export function FillPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/fill' });
  const goTo = useStages(batchId);
  const queries = useQueryClient();
  const plan = useQuery(planQuery(batchId));
  const filling = useQuery(fillingQuery(batchId));
  const me = useQuery(sessionQuery).data?.name ?? '';
  const refresh = () => {
    void queries.invalidateQueries({ queryKey: ['containers'] });
    return queries.invalidateQueries({ queryKey: fillingQuery(batchId).queryKey });
  };
  const fills = useFills(batchId, filling.data?.version ?? 0, refresh);
  useAwake(true);
  useToldOf(batchId, () => {
    // Of what is handed in here the last one asks by itself.
    if (fills.toHandIn > 0) return;
    void refresh();
    void queries.invalidateQueries({ queryKey: planQuery(batchId).queryKey });
  });
  useEffect(() => {
    document.title = `Fill ${filling.data?.name ?? ''} – Yantai`;
  }, [filling.data?.name]);
  const failed = [plan, filling].find((one) => one.isError && !one.data);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!plan.data || !filling.data) return <Loading what="the containers" />;
  const found = withFills(filling.data, fills.waiting, me);
  return (
    <>
      <StageLine plan={plan.data} at="fill" onGo={goTo} />
      <main
        id="main"
        className="mx-auto flex w-full max-w-[1400px] flex-col lg:h-[calc(100dvh-7rem)] print:!block print:!h-auto"
      >
        <h1 className="sr-only">Fill {found.name}</h1>
        <FillSheet plan={plan.data} filling={found} />
        {found.containers.length === 0 ? (
          <div className="p-5">
            <Empty title="No containers to fill">
              <p>Plan containers for somebody, then come back to the scale.</p>
            </Empty>
          </div>
        ) : (
          <div className="print:hidden contents">
            <AtTheScale batchId={batchId} filling={found} fills={fills} />
          </div>
        )}
      </main>
    </>
  );
}
