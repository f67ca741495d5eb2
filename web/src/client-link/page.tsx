/** @jsxImportSource preact */
import { useState } from 'preact/hooks';
import { Container, type When } from '~/client-link/container';
import { Kitchen } from '~/client-link/kitchen';
import { dayName, fullDay, laterDay, type MyDay } from '~/client-link/link';
import { type Tell, useMyPage } from '~/client-link/use-my-page';

/** A client's own page: today, what thaws tonight, tomorrow, and the days to come. */
export function Page() {
  const { page, since, waiting, trouble, refused, token, tell, renew } = useMyPage();
  if (!page)
    return (
      <main class="mx-auto max-w-md p-4">
        <h1 class="text-2xl">My meals</h1>
        <p class="mt-3" role="status">
          {trouble || 'Loading …'}
        </p>
        {trouble ? (
          <button
            type="button"
            class="mt-4 min-h-12 rounded-lg border-2 border-ink px-4 font-bold"
            onClick={() => void renew()}
          >
            Try again
          </button>
        ) : null}
      </main>
    );
  // What was kept yesterday does not make today yesterday.
  const on = since ? laterDay(page.today, new Date()) : page.today;
  const today = page.days.find((day) => day.on === on);
  const before = page.days.filter((day) => day.on < on && day.containers.length);
  const [tomorrow, ...later] = page.days.filter((day) => day.on > on && day.containers.length);
  return (
    <main class="mx-auto max-w-md p-4 pb-12">
      <p class="text-muted">
        For {page.client}, from {page.coach}
      </p>
      <h1 class="text-3xl">{dayName(on, on)}</h1>
      <State since={since} waiting={waiting} refused={refused} />
      {today?.containers.length ? (
        <Day day={today} when="today" tell={tell} />
      ) : (
        <p class="mt-3">Nothing of {page.coach}’s is to be eaten today.</p>
      )}
      {today?.thaw.length ? (
        <section class="mt-4 rounded-xl border border-l-4 border-steel border-l-ochre bg-sheet p-4">
          <b>Tonight:</b> from the freezer into the fridge, for tomorrow: {today.thaw.join('; ')}.
        </section>
      ) : null}
      {tomorrow ? <Folded day={tomorrow} today={on} tell={tell} when="later" isOpen /> : null}
      {later.map((day) => (
        <Folded key={day.on} day={day} today={on} tell={tell} when="later" />
      ))}
      {before.map((day) => (
        <Folded key={day.on} day={day} today={on} tell={tell} when="over" />
      ))}
      <Kitchen token={token} />
      <Word tell={tell} />
      <section class="mt-6 space-y-2 text-sm text-muted">
        <p>
          <button
            type="button"
            class="min-h-11 underline"
            onClick={() =>
              tell({ method: 'PUT', path: '/macros', body: { shows_macros: !page.shows_macros } })
            }
          >
            {page.shows_macros ? 'Hide the macros' : 'Show the macros'}
          </button>
          {' · '}
          <a class="inline-flex min-h-11 items-center underline" href={page.feed}>
            On my calendar
          </a>
        </p>
        {page.cautions.map((words) => (
          <p key={words}>{words}</p>
        ))}
        <p>This page works until {fullDay(page.expires_at)}. Keep its link to yourself.</p>
      </section>
    </main>
  );
}

/** What is not as usual: no network, things that wait, things that were refused. */
function State({ since, waiting, refused }: { since: string | null; waiting: number; refused: string[] }) {
  const clock = since
    ? new Date(since).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', weekday: 'short' })
    : '';
  return (
    <div role="status" class="empty:hidden">
      {since ? <p class="mt-2 text-ochre-text">No network: this is as it was on {clock}.</p> : null}
      {waiting ? (
        <p class="mt-1 text-ochre-text">
          {waiting === 1 ? '1 thing waits' : `${waiting} things wait`} to be handed in.
        </p>
      ) : null}
      {refused.map((words) => (
        <p key={words} class="mt-1 text-alert">
          {words}
        </p>
      ))}
    </div>
  );
}

function Day({ day, when, tell }: { day: MyDay; when: When; tell: Tell }) {
  return (
    <>
      {day.containers.map((one) => (
        <Container key={`${one.row_id} ${one.container}`} one={one} when={when} tell={tell} />
      ))}
      {day.beside.length || day.total ? (
        <ul class="mt-3">
          {day.beside.map((one) => (
            <li key={one.name} class="flex justify-between gap-4 border-b border-steel py-2">
              <span>{one.name}</span>
              <span class="figures font-bold whitespace-nowrap">{one.kcal}</span>
            </li>
          ))}
          {day.total ? (
            <li class="flex justify-between gap-4 py-2 font-bold">
              <span>Day</span>
              <span class="figures whitespace-nowrap">{day.total}</span>
            </li>
          ) : null}
        </ul>
      ) : null}
    </>
  );
}

function Folded({
  day,
  today,
  tell,
  when,
  isOpen = false,
}: {
  day: MyDay;
  today: string;
  tell: Tell;
  when: When;
  isOpen?: boolean;
}) {
  const meals = day.containers.map((one) => `${one.meal.toLowerCase()}: ${one.dish}`).join(', ');
  return (
    <details class="mt-4 border-t border-steel" open={isOpen}>
      <summary class="py-2">
        <span>
          <b>{dayName(day.on, today)}</b>
          <span class="block text-muted">{meals}</span>
        </span>
      </summary>
      <Day day={day} when={when} tell={tell} />
      {day.thaw.length ? (
        <p class="mt-3">
          <b>In the evening:</b> into the fridge to thaw: {day.thaw.join('; ')}.
        </p>
      ) : null}
    </details>
  );
}

function Word({ tell }: { tell: Tell }) {
  const [text, setText] = useState('');
  const [isSent, setSent] = useState(false);
  return (
    <form
      class="mt-6 border-t border-steel pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (!text.trim()) return;
        tell({ method: 'POST', path: '/words', body: { text: text.trim() } });
        setText('');
        setSent(true);
      }}
    >
      <label class="block">
        <b>A word to your coach</b>
        <textarea
          class="mt-2 block w-full rounded-lg border border-edge bg-sheet p-3"
          rows={3}
          maxLength={1000}
          value={text}
          onInput={(event) => {
            setText(event.currentTarget.value);
            setSent(false);
          }}
        />
      </label>
      <button
        type="submit"
        class="mt-2 min-h-12 rounded-lg border-2 border-ink px-4 font-bold disabled:opacity-45"
        disabled={!text.trim()}
      >
        Send it
      </button>
      {isSent ? (
        <p role="status" class="mt-2">
          It is on its way.
        </p>
      ) : null}
    </form>
  );
}
