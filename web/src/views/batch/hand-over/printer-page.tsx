import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask } from '~/api/client';
import { moment, plural } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';

const KEY = ['label printer'];

/** The simulated label printer: what it took, what waits, and its switch. */
export function PrinterPage() {
  const queries = useQueryClient();
  const printer = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET('/api/v1/label-printer')) });
  const turn = useMutation({
    mutationFn: (is_on: boolean) =>
      write(call('put', '/api/v1/label-printer', { body: { is_on } }), {
        about: 'label printer',
        words: [is_on ? 'The label printer on' : 'The label printer off'],
        href: '/label-printer',
      }),
    onSuccess: (fresh) => queries.setQueryData(KEY, fresh),
    onError: showProblem,
  });
  if (printer.isError) return <LoadFailed error={printer.error} retry={() => void printer.refetch()} />;
  if (!printer.data) return <Loading what="the label printer" />;
  const { is_on, jobs } = printer.data;
  const waiting = jobs.filter((one) => one.printed_at === null).length;
  return (
    <Page
      title="Label printer"
      detail="simulated: it shows what it was sent"
      actions={
        <Button look={is_on ? 'plain' : 'main'} disabled={turn.isPending} onClick={() => turn.mutate(!is_on)}>
          {is_on ? 'Switch it off' : 'Switch it on'}
        </Button>
      }
    >
      {is_on ? null : (
        <div className="mb-3">
          <Notice tone="caution" title="The label printer is off">
            {waiting
              ? `${plural(waiting, 'job')} ${waiting === 1 ? 'waits' : 'wait'}, and ${waiting === 1 ? 'is' : 'are'} printed when it is switched on.`
              : 'What is sent waits, and is printed when it is switched on.'}
          </Notice>
        </div>
      )}
      {jobs.length ? (
        <ul className="divide-y divide-steel rounded-xl border border-steel bg-sheet">
          {jobs.map((job) => (
            <li key={job.id} className="flex flex-wrap items-center justify-between gap-3 px-4 py-2">
              <span>
                <b>{job.title}</b>
                <span className="block text-sm text-muted">
                  {plural(job.labels, 'label')}, sent {moment(job.made_at)} by {job.made_by}.{' '}
                  {job.printed_at ? `Printed ${moment(job.printed_at)}.` : 'Waits for the printer.'}
                </span>
              </span>
              <a
                className={buttonClass()}
                href={`/api/v1/label-printer/jobs/${job.id}.pdf`}
                target="_blank"
                rel="noreferrer"
                aria-label={`Look at ${job.title}`}
              >
                Look at it
              </a>
            </li>
          ))}
        </ul>
      ) : (
        <Empty title="Nothing was printed yet">
          <p>Labels are sent from Hand over of a batch. Any other printer takes their PDF.</p>
        </Empty>
      )}
    </Page>
  );
}
