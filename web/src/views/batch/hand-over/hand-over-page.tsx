import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { useState } from 'react';
import { day, oneDecimal, plural } from '~/lib/format';
import { Button, buttonClass } from '~/parts/button';
import { Empty, LoadFailed, Loading, Notice } from '~/parts/notice';
import { Page } from '~/parts/page';
import { StageLine } from '~/views/batch/frame/stage-line';
import { usePlan } from '~/views/batch/frame/use-plan';
import { useStages } from '~/views/batch/frame/use-stages';
import { EatingCalendar } from '~/views/batch/hand-over/calendar';
import { LabelsDialog } from '~/views/batch/hand-over/labels-dialog';
import { SheetsDialog } from '~/views/batch/hand-over/sheets-dialog';
import { Shelf } from '~/views/batch/hand-over/shelf';
import { useHandOver } from '~/views/batch/hand-over/use-hand-over';
import { WeekForm } from '~/views/batch/hand-over/week-form';
import { WEEKDAYS, type Week, weekState } from '~/views/batch/hand-over/words';
import { LinkDialog } from '~/views/clients/link-dialog';

/** Every container gets its place and its day: a calendar for each client, and how long everything keeps. */
export function HandOverPage() {
  const { batchId } = useParams({ from: '/inside/batches/$batchId/hand-over' });
  const { client: chosen } = useSearch({ from: '/inside/batches/$batchId/hand-over' });
  const navigate = useNavigate({ from: '/batches/$batchId/hand-over' });
  const goTo = useStages(batchId);
  const { plan } = usePlan(batchId);
  const desk = useHandOver(batchId);
  const [labelling, setLabelling] = useState(false);
  const [printing, setPrinting] = useState(false);
  const failed = [plan, desk.query].find((one) => one.isError && !one.data);
  if (failed) return <LoadFailed error={failed.error} retry={() => void failed.refetch()} />;
  if (!plan.data || !desk.query.data) return <Loading what="what is handed over" />;
  const handed = desk.query.data;
  const open = handed.clients.find((one) => one.client_id === chosen) ?? handed.clients[0];
  const waiting = handed.clients.reduce((sum, one) => sum + one.waiting.length, 0);
  return (
    <>
      <StageLine plan={plan.data} at="hand-over" onGo={goTo} />
      <Page
        title={`Hand over ${handed.name}`}
        detail={`cooked ${day(handed.cooked_on)}, ${
          handed.is_packed && !handed.closed
            ? `${plural(handed.containers, 'container')}, packed`
            : `${handed.closed} of ${plural(handed.containers, 'container')} filled`
        }`}
        actions={
          handed.clients.length ? (
            <>
              <Button
                look={waiting ? 'main' : 'plain'}
                disabled={desk.isSaving}
                onClick={() => void desk.make(null, true)}
              >
                {waiting ? 'Give every container its day' : 'Make all calendars anew'}
              </Button>
              <Button look={waiting ? 'plain' : 'main'} onClick={() => setLabelling(true)}>
                Labels
              </Button>
              <Button onClick={() => setPrinting(true)}>Sheets</Button>
              <Link to="/outbox" search={{ kind: 'hand-over', batch: batchId }} className={buttonClass()}>
                Write to them
              </Link>
            </>
          ) : null
        }
      >
        {handed.cooked_words ? (
          <div className="mb-3">
            <Notice tone="caution">{handed.cooked_words}</Notice>
          </div>
        ) : null}
        {open ? (
          <div className="grid items-start gap-4 lg:grid-cols-[230px_minmax(0,1fr)]">
            <nav aria-label="Clients">
              <ul className="grid gap-1.5 sm:grid-cols-3 lg:grid-cols-1">
                {handed.clients.map((one) => (
                  <li key={one.client_id}>
                    <ClientButton
                      week={one}
                      isOpen={one.client_id === open.client_id}
                      onOpen={() => void navigate({ search: { client: one.client_id }, replace: true })}
                    />
                  </li>
                ))}
              </ul>
            </nav>
            <ClientWeek key={open.client_id} week={open} desk={desk} />
          </div>
        ) : (
          <Empty title="Nothing to hand over yet">
            <p>Give clients their containers in the plan first. Then every one of them gets its day here.</p>
          </Empty>
        )}
        {handed.components.length ? <Shelf components={handed.components} desk={desk} /> : null}
        {labelling ? (
          <LabelsDialog batchId={batchId} week={open ?? null} onClose={() => setLabelling(false)} />
        ) : null}
        {printing ? (
          <SheetsDialog batchId={batchId} week={open ?? null} onClose={() => setPrinting(false)} />
        ) : null}
        <div className="mt-6 space-y-3">
          {handed.cautions.map((caution) => (
            <Notice key={caution} tone="caution">
              {caution}
            </Notice>
          ))}
        </div>
      </Page>
    </>
  );
}

function ClientButton({ week, isOpen, onOpen }: { week: Week; isOpen: boolean; onOpen: () => void }) {
  const { words, toLook } = weekState(week);
  return (
    <button
      type="button"
      aria-current={isOpen ? 'true' : undefined}
      onClick={onOpen}
      className={`block min-h-14 w-full rounded-lg border px-3 py-2 text-left leading-snug ${
        isOpen ? 'border-ink bg-sheet' : 'border-steel bg-transparent hover:border-edge'
      }`}
    >
      <span className="block font-semibold">{week.client}</span>
      <span className={`block text-sm ${toLook ? 'text-ochre-text' : 'text-muted'}`}>{words}</span>
    </button>
  );
}

function ClientWeek({ week, desk }: { week: Week; desk: ReturnType<typeof useHandOver> }) {
  const [editing, setEditing] = useState(false);
  const [linking, setLinking] = useState(false);
  const hasHand = week.days.some((one) => one.containers.some((box) => box.by_hand));
  return (
    <section aria-label={week.client} className="min-w-0">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-2xl">{week.client}</h2>
          <p className="text-sm text-muted">{weekWords(week)}</p>
        </div>
        <div className="flex flex-wrap gap-3">
          <Button onClick={() => setLinking(true)}>Their page</Button>
          <Button onClick={() => setEditing(true)}>Week and fridge</Button>
          {week.days.length ? (
            <Button disabled={desk.isSaving} onClick={() => void desk.make(week.client_id, !hasHand)}>
              {hasHand ? 'All days anew' : 'Days anew'}
            </Button>
          ) : null}
        </div>
      </div>
      <EatingCalendar week={week} desk={desk} />
      {linking ? <LinkDialog clientId={week.client_id} onClose={() => setLinking(false)} /> : null}
      {editing ? <WeekForm week={week} desk={desk} onClose={() => setEditing(false)} /> : null}
    </section>
  );
}

/** What the days go by, and what of it is assumed. */
function weekWords(week: Week): string {
  const first = `From ${day(week.first_on)}${week.first_is_assumed ? ', assumed' : ''}`;
  const given = WEEKDAYS.flatMap((name, at) => (week.week[at] ? [`${name} ${week.week[at]}`] : []));
  const days = week.day_types.length
    ? given.length
      ? given.join(', ')
      : `which days are ${week.day_types.join(' and ')} is assumed`
    : '';
  const room = week.fridge_l ? `${oneDecimal(week.fridge_l)} l of fridge` : 'room in the fridge not known';
  return [first, days, room].filter(Boolean).join('; ');
}
