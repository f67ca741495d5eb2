import { useStored } from '~/lib/use-stored';
import { buttonClass } from '~/parts/button';
import { Toggles } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import type { Week } from '~/views/batch/hand-over/words';

const PAPERS = [
  { value: 'a4', label: 'A4' },
  { value: 'us-letter', label: 'Letter' },
] as const;

/** Sheets of paper that go along: every client's week, the list to sign, and a kitchen sheet. */
export function SheetsDialog({
  batchId,
  week,
  onClose,
}: {
  batchId: string;
  week: Week | null;
  onClose: () => void;
}) {
  const [paper, setPaper] = useStored<'a4' | 'us-letter'>('yantai/paper', 'a4');
  const base = `/api/v1/batches/${batchId}/sheets`;
  const sheets = [
    {
      name: 'Hand-over list',
      says: 'Every container with its grams, place and day, and a line to sign for each client.',
      href: `${base}/list.pdf?paper=${paper}`,
    },
    {
      name: 'Weeks of all clients',
      says: 'What is eaten when, how it is warmed up, what thaws, and the day against its target.',
      href: `${base}/weeks.pdf?paper=${paper}`,
    },
    ...(week
      ? [
          {
            name: `Week of ${week.client}`,
            says: 'The same for one client.',
            href: `${base}/weeks.pdf?paper=${paper}&client_id=${week.client_id}`,
          },
          {
            name: `Kitchen sheet for ${week.client}`,
            says: 'For who cooks alone: raw amounts, steps, and grams for each container from the weighed pan.',
            href: `${base}/kitchen.pdf?paper=${paper}&client_id=${week.client_id}`,
          },
        ]
      : []),
  ];
  return (
    <Overlaid open onOpenChange={onClose} wide title="Sheets">
      <Toggles label="Paper" value={paper} options={PAPERS} onValue={setPaper} />
      <ul className="mt-4 divide-y divide-steel">
        {sheets.map((sheet) => (
          <li key={sheet.name} className="flex items-center justify-between gap-4 py-2">
            <span>
              <b>{sheet.name}</b>
              <span className="block text-sm text-muted">{sheet.says}</span>
            </span>
            <a
              className={buttonClass()}
              href={sheet.href}
              target="_blank"
              rel="noreferrer"
              aria-label={`${sheet.name}, PDF`}
            >
              PDF
            </a>
          </li>
        ))}
      </ul>
    </Overlaid>
  );
}
