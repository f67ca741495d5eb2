import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '~/api/client';
import { moment, weight } from '~/lib/format';
import { temperature } from '~/lib/units';
import { Button, buttonClass } from '~/parts/button';
import { LoadFailed } from '~/parts/notice';
import { lengthWords } from '~/views/batch/cook/clock';
import { HelperWords } from '~/views/batch/cook/helper';
import { logQuery } from '~/views/batch/cook/queries';
import type { Mark } from '~/views/batch/cook/use-facts';

type Entry = Schemas['LogEntryView'];

const detail = (entry: Entry) =>
  [
    entry.minutes !== null && entry.minutes > 0 ? lengthWords(entry.minutes) : '',
    entry.celsius === null ? '' : temperature(entry.celsius),
    entry.is_enough === false ? 'too cold' : '',
    entry.grams === null ? '' : `${weight(entry.grams)} with the pan`,
  ]
    .filter(Boolean)
    .join(', ');

const words = (entry: Entry) =>
  [entry.says.replace(/\.$/, ''), entry.what, detail(entry)].filter(Boolean).join(': ');

/** What was noted on a cook day, by whom, when: to look up, and to print as one page. */
export function DayLog({
  batchId,
  noted,
  isPrinted,
  takeBack,
}: {
  batchId: string;
  noted: number;
  isPrinted: boolean;
  takeBack: (mark: Mark) => void;
}) {
  const log = useQuery(logQuery(batchId, noted));
  if (log.isError) return <LoadFailed error={log.error} retry={() => void log.refetch()} />;
  const found = log.data;
  if (!found?.entries.length) return null;
  return (
    <section
      aria-label="The day’s log"
      className={`mt-4 rounded-xl border border-steel bg-sheet p-4 print:border-0 print:p-0 ${isPrinted ? '' : 'print:hidden'}`}
    >
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="text-xl">The day’s log</h2>
        <a
          className={`print:hidden ${buttonClass()}`}
          href={`/api/v1/batches/${batchId}/cooking/log.csv`}
          download
        >
          CSV
        </a>
      </div>
      {found.took_min === null ? null : (
        <p className="mb-2">
          {lengthWords(found.took_min)} until the last step so far
          {found.container_min === null ? '' : `, ${found.container_min.toFixed(1)} min for a container`}.
          {found.planned_hands_min
            ? ` Hands on ${lengthWords(found.hands_min)}, planned ${lengthWords(found.planned_hands_min)} for the same steps.`
            : ''}
        </p>
      )}
      {found.took_min === null ? null : <HelperWords batchId={batchId} version={noted} isOver />}
      <table className="w-full text-sm">
        <thead>
          <tr className="border-b border-edge text-left">
            <th className="py-1 pr-3">When</th>
            <th className="py-1 pr-3">Of</th>
            <th className="py-1 pr-3">What</th>
            <th className="py-1">Who</th>
            <th className="print:hidden">
              <span className="sr-only">Take back</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {found.entries.map((entry) => (
            <tr key={entry.id} className="break-inside-avoid border-b border-steel align-top">
              <td className="figures py-1 pr-3 whitespace-nowrap">{moment(entry.happened_at)}</td>
              <td className="py-1 pr-3">{entry.component}</td>
              <td className={`py-1 pr-3 ${entry.is_enough === false ? 'font-medium text-alert' : ''}`}>
                {words(entry)}
              </td>
              <td className="py-1">
                {[
                  entry.person,
                  entry.person === entry.made_by ? '' : `noted by ${entry.made_by}`,
                  entry.device,
                ]
                  .filter(Boolean)
                  .join(', ')}
              </td>
              <td className="text-right print:hidden">
                <Button
                  look="quiet"
                  className="!px-0 underline"
                  aria-label={`Take back: ${words(entry)}`}
                  onClick={() => takeBack({ id: entry.id, words: words(entry) })}
                >
                  Take back
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-muted">
        Readings and times as they were noted. What has to be kept, and for how long, local food rules say.
      </p>
    </section>
  );
}
