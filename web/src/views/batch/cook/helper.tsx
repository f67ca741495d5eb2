import { useQuery } from '@tanstack/react-query';
import { toProblem } from '~/api/client';
import { Button } from '~/parts/button';
import { lengthWords, timeWords } from '~/views/batch/cook/clock';
import { helperQuery } from '~/views/batch/cook/queries';

type Props = {
  batchId: string;
  /** What the answer holds for: the version of the plan, or what was noted so far. */
  version: number;
  /** Whether the day is over: then with the minutes it took. */
  isOver?: boolean;
};

/** What one more pair of hands would change, or would have changed: asked for, and computed. */
export function HelperWords({ batchId, version, isOver = false }: Props) {
  const help = useQuery(helperQuery(batchId, version));
  const saves = help.data?.saves_min ?? 0;
  return (
    <p className="flex flex-wrap items-center gap-x-3 print:hidden">
      <Button
        look="quiet"
        className="!px-0 underline"
        disabled={help.isFetching}
        onClick={() => void help.refetch()}
      >
        {help.isFetching
          ? 'Trying with one more …'
          : isOver
            ? 'What would one more helper have saved?'
            : 'What would one more helper change?'}
      </Button>
      {help.isError ? <span className="text-alert">{toProblem(help.error).detail}</span> : null}
      {help.data && !help.isFetching ? (
        <span role="status">
          {saves <= 0
            ? `Nothing: the day ${isOver ? 'would have been' : 'is'} as long with one more.`
            : isOver
              ? `About ${lengthWords(saves)}, with the minutes that the steps took.`
              : `Ready ${lengthWords(saves)} earlier, at ${timeWords(help.data.ready_min)}.`}
        </span>
      ) : null}
    </p>
  );
}
