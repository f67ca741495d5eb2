import { useNavigate } from '@tanstack/react-router';
import { useState } from 'react';
import { toast } from 'sonner';
import { moment, plural } from '~/lib/format';
import { type Entry, isAway, isServerAway } from '~/offline/outbox';
import { useOutbox } from '~/offline/use-outbox';
import { waitingWords } from '~/offline/waiting-words';
import { getOutbox } from '~/offline/writes';
import { Button } from '~/parts/button';
import { Overlaid } from '~/parts/dialog';

/** What is not saved yet: how much of it, and on demand what, why, and where it is mended. Nothing while all is well. */
export function WaitingList() {
  const entries = useOutbox();
  const [open, setOpen] = useState(false);
  const outbox = getOutbox();
  const troubled = entries.some((entry) => entry.problem);
  const away = isServerAway(entries);
  // What waits the next time does not open itself.
  if (!troubled && open) setOpen(false);
  if (!troubled) return null;
  const words = away ? waitingWords(entries) : `${entries.length} not saved`;
  return (
    <>
      <Button className="!min-h-9 !border-alert" onClick={() => setOpen(true)}>
        {words}
      </Button>
      <Overlaid
        open={open}
        onOpenChange={setOpen}
        title={words}
        detail={
          outbox.durable
            ? 'It is kept in this browser until the server has it, also when the page is closed.'
            : 'This browser keeps nothing when the page is closed: leave it open until all of this is saved.'
        }
      >
        <ul className="space-y-2">
          {entries.map((entry) => (
            <Waiting key={entry.id} entry={entry} onLeave={() => setOpen(false)} />
          ))}
        </ul>
        {away ? (
          <p className="mt-4 text-right">
            <Button look="main" onClick={() => outbox.kick()}>
              Send now
            </Button>
          </p>
        ) : null}
      </Overlaid>
    </>
  );
}

/** Under its own id it may come back: what was made of it meanwhile is not made twice. */
async function letGo(entry: Entry) {
  await getOutbox().drop(entry.id);
  toast(`Let go: ${entry.words.join('; ')}`, {
    duration: 10_000,
    action: { label: 'Keep it', onClick: () => getOutbox().put(entry, () => true) },
  });
}

function Waiting({ entry, onLeave }: { entry: Entry; onLeave: () => void }) {
  const navigate = useNavigate();
  const { problem } = entry;
  const waits = !problem || isAway(problem);
  return (
    <li className="rounded-lg border border-steel p-3">
      <p className="font-medium">{entry.words.join('; ') || plural(1, 'change')}</p>
      <p className="text-sm text-muted">{moment(entry.at)}</p>
      <p className={waits ? 'text-sm text-muted' : 'text-sm font-medium text-alert'}>
        {waits ? 'Waits for the server.' : problem.detail}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-3">
        <a
          href={entry.href}
          onClick={(event) => {
            event.preventDefault();
            onLeave();
            void navigate({ href: entry.href });
          }}
          className="inline-flex min-h-9 items-center underline"
        >
          {waits ? 'Look at it' : 'Mend it'}
        </a>
        <Button look="quiet" className="!min-h-9" onClick={() => void letGo(entry)}>
          Let go of it
        </Button>
      </div>
    </li>
  );
}
