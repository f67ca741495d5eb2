import { useMutation, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas, toProblem } from '~/api/client';
import { faultFinder } from '~/lib/faults';
import { listed, plural } from '~/lib/format';
import { readNumber } from '~/lib/numbers';
import { useStored } from '~/lib/use-stored';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Overlaid } from '~/parts/dialog';
import { Field } from '~/parts/field';
import { showProblem } from '~/parts/show-problem';
import type { Week } from '~/views/batch/hand-over/words';

type Wanted = Schemas['LabelsInput'];
type Draft = { grid: string; start: string; own: Record<OwnKey, string> };

const OWN = [
  ['label_w_mm', 'A label is wide', '63.5'],
  ['label_h_mm', 'and high', '38.1'],
  ['columns', 'Columns', '3'],
  ['rows', 'Rows', '7'],
  ['left_mm', 'Left margin', '7.25'],
  ['top_mm', 'Top margin', '15.15'],
  ['gap_x_mm', 'Gap across', '2.5'],
  ['gap_y_mm', 'Gap down', '0'],
] as const;
type OwnKey = (typeof OWN)[number][0];

const FIRST: Draft = {
  grid: 'sheet-63x38',
  start: '1',
  own: Object.fromEntries(OWN.map(([key, , usual]) => [key, usual])) as Draft['own'],
};

/** Labels of a batch: on which sheet or roll, from which cell on, whose, and how they come out. */
export function LabelsDialog({
  batchId,
  week,
  onClose,
}: {
  batchId: string;
  week: Week | null;
  onClose: () => void;
}) {
  // The sheets that a kitchen has stay the same; where a sheet was left off does not.
  const [grid, setGrid] = useStored('yantai/label-grid', FIRST.grid);
  const [draft, setDraft] = useState<Draft>(FIRST);
  const [whose, setWhose] = useState<'all' | 'client'>('all');
  const grids = useQuery({
    queryKey: ['label grids'],
    queryFn: () => ask(api.GET('/api/v1/label-grids')),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const isOwn = grid === 'own';
  const isSheet = isOwn || grids.data?.find((one) => one.key === grid)?.is_roll === false;
  const { wanted, local } = read(
    { ...draft, grid },
    isSheet,
    whose === 'client' ? (week?.client_id ?? null) : null,
  );
  const query = queryOf(wanted);
  const labels = useQuery({
    queryKey: ['plans', batchId, 'labels', query],
    enabled: local.size === 0,
    retry: false,
    queryFn: () =>
      ask(
        api.GET('/api/v1/batches/{batch_id}/labels', {
          params: { path: { batch_id: batchId }, query: wanted },
        }),
      ),
  });
  const print = useMutation({
    mutationFn: () =>
      write(
        call('post', '/api/v1/batches/{batch_id}/labels/printed', {
          params: { path: { batch_id: batchId } },
          body: wanted,
        }),
        { about: `labels ${batchId}`, words: ['Labels to the printer'], href: '/label-printer' },
      ),
    onSuccess: (job) =>
      toast(
        job.printed_at ? `${plural(job.labels, 'label')} printed.` : 'The label printer is off: they wait.',
      ),
    onError: showProblem,
  });
  const problem = labels.isError ? toProblem(labels.error) : null;
  const fault = faultFinder(local, problem);
  const base = `/api/v1/batches/${batchId}/labels`;
  const set = (part: Partial<Draft>) => setDraft((now) => ({ ...now, ...part }));
  return (
    <Overlaid open onOpenChange={onClose} wide="page" title="Labels">
      <div className="grid items-start gap-5 md:grid-cols-[300px_minmax(0,1fr)]">
        <div className="grid gap-3">
          <Choice
            label="Sheet or roll"
            value={grid}
            options={[
              ...(grids.data ?? []).map((one) => ({ value: one.key, label: one.name })),
              { value: 'own', label: 'Own measures' },
            ]}
            onValue={setGrid}
            fault={fault('/grid')}
          />
          {isOwn ? (
            <div className="grid grid-cols-2 gap-2">
              {OWN.map(([key, label]) => (
                <Field
                  key={key}
                  label={label}
                  unit={key.endsWith('_mm') ? 'mm' : ''}
                  inputMode="decimal"
                  value={draft.own[key]}
                  onChange={(event) => set({ own: { ...draft.own, [key]: event.target.value } })}
                  fault={fault(`/${key}`)}
                />
              ))}
            </div>
          ) : null}
          {isSheet ? (
            <Field
              label="Begin in cell"
              hint="Of a sheet that was used in part, from the left and top."
              inputMode="numeric"
              value={draft.start}
              onChange={(event) => set({ start: event.target.value })}
              fault={fault('/start')}
            />
          ) : null}
          {week ? (
            <Choice
              label="Whose"
              value={whose}
              options={[
                { value: 'all', label: 'all clients' },
                { value: 'client', label: week.client },
              ]}
              onValue={setWhose}
            />
          ) : null}
          <div className="flex flex-wrap gap-2 pt-1">
            <Button
              look="main"
              disabled={print.isPending || !labels.data?.count}
              onClick={() => print.mutate()}
            >
              To the label printer
            </Button>
            <a className={buttonClass()} href={`${base}.pdf?${query}`} target="_blank" rel="noreferrer">
              PDF
            </a>
            <a
              className={buttonClass()}
              href={`/api/v1/label-grids/test.pdf?${queryOf(gridOnly(wanted))}`}
              target="_blank"
              rel="noreferrer"
            >
              Test page
            </a>
          </div>
          <p className="text-sm text-muted">
            Print at 100 %. Hold the test page behind a sheet first.{' '}
            <Link to="/label-printer" className="underline">
              The label printer
            </Link>
          </p>
        </div>
        <div className="min-w-0">
          <p role="status" className="mb-2 min-h-5">
            {labels.data ? summary(labels.data) : problem ? problem.detail : 'Setting the labels …'}
          </p>
          {labels.data ? <ToLookAt labels={labels.data} /> : null}
          {labels.data?.count ? (
            <img
              src={`${base}.png?${query}`}
              alt="The first sheet as it is printed"
              className="max-h-[62vh] max-w-full border border-steel"
            />
          ) : null}
        </div>
      </div>
    </Overlaid>
  );
}

function summary(labels: Schemas['LabelsView']): string {
  const planned = labels.planned
    ? ` ${plural(labels.planned, 'container')} not filled: they say “planned”.`
    : '';
  return `${plural(labels.count, 'label')} on ${plural(labels.pages, 'page')}.${planned}`;
}

/** Labels that are short, cut off, or lack a letter; the same words once, with how many they are of. */
function ToLookAt({ labels }: { labels: Schemas['LabelsView'] }) {
  const told = new Map<string, string[]>();
  for (const one of labels.labels) {
    const words = [
      one.fits ? '' : 'text is cut off at the edge, take a larger label',
      one.dropped.length ? `without ${listed(one.dropped)}` : '',
      one.lacking.length ? `no letters here for ${one.lacking.join(' ')}, “□” stands for each` : '',
    ]
      .filter(Boolean)
      .join('; ');
    told.set(words, [...(told.get(words) ?? []), one.name]);
  }
  if (told.size === 0) return null;
  return (
    <ul className="mb-2 text-sm text-ochre-text">
      {[...told].map(([words, names]) => (
        <li key={words}>
          {names.length === labels.count
            ? 'Every label'
            : names.length > 2
              ? plural(names.length, 'label')
              : listed(names)}
          : {words}.
        </li>
      ))}
    </ul>
  );
}

/** The measures of a sheet that is known by its name go without saying. */
const KNOWN = { columns: 1, rows: 1, left_mm: 0, top_mm: 0, gap_x_mm: 0, gap_y_mm: 0, containers: [] };

function read(draft: Draft, isSheet: boolean, clientId: string | null) {
  const local = new Map<string, string>();
  const number = (pointer: string, text: string) => {
    const { value, fault } = readNumber(text);
    if (fault) local.set(pointer, fault);
    return value ?? 0;
  };
  const wanted: Wanted = {
    ...KNOWN,
    ...(draft.grid === 'own'
      ? Object.fromEntries(OWN.map(([key]) => [key, number(`/${key}`, draft.own[key])]))
      : {}),
    grid: draft.grid,
    start: isSheet ? number('/start', draft.start) || 1 : 1,
    address: window.location.origin,
    ...(clientId ? { client_id: clientId } : {}),
  };
  return { wanted, local };
}

const gridOnly = ({
  start: _start,
  address: _address,
  client_id: _client,
  containers: _containers,
  ...grid
}: Wanted) => grid;

const queryOf = (wanted: object) =>
  new URLSearchParams(
    Object.entries(wanted).flatMap(([key, value]) =>
      Array.isArray(value) ? value.map((one) => [key, String(one)]) : [[key, String(value)]],
    ),
  ).toString();
