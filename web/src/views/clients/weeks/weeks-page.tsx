import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, type Schemas } from '~/api/client';
import { MACROS, MacroName } from '~/food/macros';
import { MACRO_KEYS, type MacroKey } from '~/food/nutrients';
import { day, dayAndYear, energy, plural, weight, wholeNumber } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button, buttonClass } from '~/parts/button';
import { Choice } from '~/parts/choice';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { showProblem } from '~/parts/show-problem';
import { clientQuery } from '~/views/clients/queries';
import { LeftDialog } from '~/views/clients/weeks/left-dialog';
import { type Bar, barsOf, nearness } from '~/views/clients/weeks/plot';
import { weeksQuery } from '~/views/clients/weeks/queries';

type Weeks = Schemas['EatenWeeksView'];
type Eaten = Schemas['EatenContainerView'];

const SPANS = ['2', '6', '12', '26'] as const;

/** What a client was given, ate and left over weeks, and what they still have. */
export function WeeksPage() {
  const { clientId } = useParams({ from: '/inside/clients/$clientId/weeks' });
  const [span, setSpan] = useState<(typeof SPANS)[number]>('6');
  const weeks = useQuery(weeksQuery(clientId, Number(span)));
  if (weeks.isError) return <LoadFailed error={weeks.error} retry={() => void weeks.refetch()} />;
  const found = weeks.data;
  return (
    <Page
      title={found ? `Weeks of ${found.client}` : 'Weeks'}
      detail={found ? `since ${dayAndYear(found.since)}` : ''}
      actions={
        <>
          <div className="w-36">
            <Choice
              label="How far back"
              hideLabel
              options={SPANS.map((value) => ({ value, label: `${value} weeks` }))}
              value={span}
              onValue={setSpan}
            />
          </div>
          <Link to="/clients/$clientId" params={{ clientId }} className={buttonClass()}>
            Client
          </Link>
        </>
      }
    >
      {found ? <Found found={found} /> : <Loading what="the weeks" />}
    </Page>
  );
}

function Found({ found }: { found: Weeks }) {
  return (
    <>
      <Habits found={found} />
      {found.boxes.length ? (
        <p className="mb-4">
          <b>Out with them:</b> {found.boxes.map((one) => `${one.count} × ${one.name}`).join(', ')}
          {found.deposit ? `; deposit ${found.deposit}` : ''}.{' '}
          <Link to="/containers" className="underline">
            What came back
          </Link>
        </p>
      ) : null}
      {found.days.length ? (
        <>
          <Legend />
          <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
            {MACRO_KEYS.map((key) => (
              <Plot key={key} of={key} found={found} />
            ))}
          </div>
          <Containers found={found} />
        </>
      ) : (
        <Empty title="Nothing of theirs was to be eaten in this time">
          <p>
            Days come from the calendar of Hand over; what was eaten is told on the client’s page, or here.
          </p>
        </Empty>
      )}
    </>
  );
}

function Habits({ found }: { found: Weeks }) {
  const queries = useQueryClient();
  const client = useQuery(clientQuery(found.client_id));
  const bind = useMutation({
    mutationFn: async (habit: Schemas['HabitView']) => {
      const now = await ask(
        api.GET('/api/v1/clients/{client_id}', { params: { path: { client_id: found.client_id } } }),
      );
      const others = now.bounds.filter((one) => one.word !== habit.word);
      return write(
        call('put', '/api/v1/clients/{client_id}/bounds', {
          params: { path: { client_id: found.client_id } },
          body: {
            bounds: [...others, { word: habit.word, maximum_g: habit.maximum_g }],
            version: now.version,
          },
        }),
        { about: `client ${found.client_id}`, words: ['A client’s bounds'], href: '/clients' },
      );
    },
    onSuccess: (changed) => {
      queries.setQueryData(clientQuery(changed.id).queryKey, changed);
      void queries.invalidateQueries({ queryKey: ['clients', changed.id, 'weeks'] });
      toast.success(`${changed.name} has no more than that from now on.`);
    },
    onError: showProblem,
  });
  return (
    <div className="mb-4 space-y-2 empty:hidden">
      {found.habits.map((habit) => (
        <Notice key={habit.word} tone="caution">
          <div className="flex flex-wrap items-center justify-between gap-3">
            <span>
              <b>
                {found.client} {habit.words}.
              </b>{' '}
              {habit.bound_g === null
                ? `What is eaten of it is about ${weight(habit.maximum_g)}.`
                : `They have at most ${weight(habit.bound_g)} of it already.`}
            </span>
            {habit.bound_g === null ? (
              <Button disabled={bind.isPending || !client.data} onClick={() => bind.mutate(habit)}>
                {habit.maximum_g > 0
                  ? `At most ${weight(habit.maximum_g)} from now on`
                  : 'None of it from now on'}
              </Button>
            ) : null}
          </div>
        </Notice>
      ))}
    </div>
  );
}

function Legend() {
  const swatch = 'mr-1.5 inline-block h-3 w-5 align-baseline';
  return (
    <p className="mb-2 flex flex-wrap gap-x-5 gap-y-1 text-sm text-muted">
      <span>
        <span aria-hidden className={`${swatch} border border-ink bg-sheet`} />
        filled
      </span>
      <span>
        <span aria-hidden className={`${swatch} bg-edge`} />
        eaten, where all was told
      </span>
      <span>
        <span aria-hidden className={`${swatch} border-t-2 border-dashed border-ink`} />
        planned
      </span>
      <span>
        <span aria-hidden className={`${swatch} border-t-4 border-ink`} />
        target
      </span>
      <span>Each with what is eaten beside, as planned.</span>
    </p>
  );
}

const SIZE = { width: 600, height: 110 };

const figure = (of: MacroKey, value: number | null) =>
  value === null ? '–' : of === 'kcal' ? energy(value) : `${wholeNumber(value)} g`;

function Plot({ of, found }: { of: MacroKey; found: Weeks }) {
  const { bars, most } = barsOf(found.days, of, found.since, found.today, SIZE);
  const told = bars.map(({ values }) => nearness(values)).filter((one) => one !== null);
  const mean = told.length ? Math.round(told.reduce((sum, one) => sum + one, 0) / told.length) : null;
  const up = (height: number) => SIZE.height - height;
  return (
    <section aria-label={`${MACROS[of].word} by day`}>
      <h2 className="flex items-baseline justify-between text-base">
        <MacroName of={of} />
        <span className="text-sm font-normal text-muted">
          {mean === null
            ? `up to ${figure(of, most)}`
            : `eaten ${mean} % of the target, mean of ${plural(told.length, 'day')}`}
        </span>
      </h2>
      <svg
        role="img"
        aria-label={bars.map((bar) => words(of, bar)).join('; ')}
        viewBox={`0 -4 ${SIZE.width} ${SIZE.height + 22}`}
        className="w-full"
      >
        <line x1={0} x2={SIZE.width} y1={SIZE.height} y2={SIZE.height} className="stroke-edge" />
        {bars.map((bar) => (
          <g key={bar.on}>
            <title>{words(of, bar)}</title>
            {bar.eaten === null ? null : (
              <rect x={bar.x} width={bar.width} y={up(bar.eaten)} height={bar.eaten} className="fill-edge" />
            )}
            <rect
              x={bar.x}
              width={bar.width}
              y={up(bar.filled)}
              height={bar.filled}
              fill="none"
              className="stroke-ink"
            />
            <line
              x1={bar.x - 1}
              x2={bar.x + bar.width + 1}
              y1={up(bar.planned)}
              y2={up(bar.planned)}
              strokeDasharray="3 2"
              className="stroke-ink"
            />
            {bar.target === null ? null : (
              <line
                x1={bar.x - 2}
                x2={bar.x + bar.width + 2}
                y1={up(bar.target)}
                y2={up(bar.target)}
                strokeWidth={3}
                className="stroke-ink"
              />
            )}
          </g>
        ))}
        <text x={0} y={SIZE.height + 15} className="fill-muted text-[12px]">
          {day(found.since)}
        </text>
        <text x={SIZE.width} y={SIZE.height + 15} textAnchor="end" className="fill-muted text-[12px]">
          {day(found.today)}
        </text>
      </svg>
    </section>
  );
}

const words = (of: MacroKey, { on, values }: Bar) =>
  `${day(on)}: filled ${figure(of, values.filled)}, planned ${figure(of, values.planned)}, eaten ${
    values.eaten === null ? 'not told' : figure(of, values.eaten)
  }${values.target === null ? '' : `, target ${figure(of, values.target)}`}`;

function Containers({ found }: { found: Weeks }) {
  const [open, setOpen] = useState<Eaten | null>(null);
  return (
    <section className="mt-6">
      <h2 className="mb-2 text-xl">Containers</h2>
      <ul className="divide-y divide-steel rounded-xl border border-steel bg-sheet" aria-label="Containers">
        {found.containers.map((one) => (
          <li
            key={`${one.row_id} ${one.container}`}
            className="flex flex-wrap items-center justify-between gap-3 px-4 py-2"
          >
            <span>
              <b>{day(one.on)}</b>, {one.meal}: {one.dish}, {one.container} of {one.of}
              <span className={`block text-sm ${one.told ? '' : 'text-muted'}`}>{fate(one)}</span>
            </span>
            <Button
              aria-label={`What was left of ${one.dish}, ${one.container} of ${one.of}, ${day(one.on)}`}
              onClick={() => setOpen(one)}
            >
              {one.told ? 'Change' : 'What was left'}
            </Button>
          </li>
        ))}
      </ul>
      {open ? <LeftDialog clientId={found.client_id} one={open} onClose={() => setOpen(null)} /> : null}
    </section>
  );
}

function fate(one: Eaten): string {
  if (!one.told) return 'Not told.';
  const who = one.by_client ? 'told by them' : 'noted here';
  if (one.told === 'eaten') return `Eaten, ${who}.`;
  const parts = one.parts.filter((part) => part.left_g);
  const detail = parts.map((part) => `${weight(part.left_g ?? 0)} ${part.name.toLowerCase()}`).join(', ');
  return `Left ${one.left}${detail ? ` (${detail})` : ''}, ${who}.`;
}
