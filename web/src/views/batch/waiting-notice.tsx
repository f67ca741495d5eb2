import { Button } from '~/parts/button';
import { Close, Overlaid } from '~/parts/dialog';
import { Notice } from '~/parts/notice';
import { mayGoAgain, type PlanDesk } from '~/views/batch/frame/use-plan';

const KEPT =
  'The server does not answer. What you change is kept in this browser and sent as soon as it does.';

/** What the server did not take: made on an older plan, lost on its way, or refused. Nothing goes without a word. */
export function WaitingNotice({ desk }: { desk: PlanDesk }) {
  const { waiting } = desk;
  if (!waiting || waiting.problem.type === 'doubtful') return null;
  const { problem } = waiting;
  const stale = problem.type === 'stale';
  return (
    <Notice tone="alert" title={problem.title}>
      <p className="mb-2">{problem.type === 'unreachable' ? KEPT : problem.detail}</p>
      <p className="mb-1 font-medium">Not saved:</p>
      <ul className="mb-3 list-disc pl-5">
        {desk.unsaved.map((one) => (
          <li key={one.id}>{one.words}</li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        {mayGoAgain(problem) ? (
          <Button look="main" onClick={() => void desk.retry()}>
            {stale ? 'Apply mine to the newest' : 'Send again'}
          </Button>
        ) : null}
        <Button onClick={() => void desk.drop()}>
          {stale ? 'Take the newest only' : mayGoAgain(problem) ? 'Drop' : 'Understood'}
        </Button>
      </div>
    </Notice>
  );
}

export function DoubtDialog({ desk }: { desk: PlanDesk }) {
  const doubt = desk.waiting?.problem.type === 'doubtful' ? desk.waiting.problem : null;
  return (
    <Overlaid
      asks
      open={doubt !== null}
      onOpenChange={(open) => (open ? undefined : void desk.drop())}
      title={doubt?.title ?? ''}
      detail={<span className="text-base">{doubt?.detail}</span>}
    >
      {doubt?.mends?.length ? (
        <ul aria-label="Ways to correct it" className="mb-5 space-y-2">
          {doubt.mends.slice(0, 3).map((mend) => (
            <li key={mend.words}>
              <Button
                className="w-full !justify-start !whitespace-normal py-2 text-left"
                onClick={() => void desk.retryWith(mend.vessels)}
              >
                {mend.words} Record it so.
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      <div className="flex flex-wrap justify-end gap-3">
        <Close asks>
          <Button look="main">Correct it</Button>
        </Close>
        <Button onClick={() => void desk.retry()}>Record it anyway</Button>
      </div>
    </Overlaid>
  );
}
