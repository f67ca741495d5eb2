import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { api, ask, toProblem } from '~/api/client';
import { moment } from '~/lib/format';
import { call, write } from '~/offline/writes';
import { Button } from '~/parts/button';
import { LoadFailed, ProblemNotice } from '~/parts/notice';
import { showProblem } from '~/parts/show-problem';

const feedQuery = queryOptions({
  queryKey: ['calendar'],
  queryFn: () => ask(api.GET('/api/v1/calendar')),
});

const ABOUT = { about: 'calendar', href: '/settings' };

/** What is begun and cooked when, in another calendar: a secret address, made and ended here. */
export function CalendarFeed() {
  const queries = useQueryClient();
  const feed = useQuery(feedQuery);
  const [isCopied, setIsCopied] = useState(false);
  const refresh = () => void queries.invalidateQueries({ queryKey: feedQuery.queryKey });
  const make = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/calendar', { body: { address: window.location.origin } }), {
        ...ABOUT,
        words: ['A new address for the calendar'],
      }),
    onSuccess: () => {
      setIsCopied(false);
      refresh();
    },
  });
  const end = useMutation({
    mutationFn: () =>
      write(call('post', '/api/v1/calendar/ended', {}), { ...ABOUT, words: ['The calendar is ended'] }),
    onSuccess: () => {
      make.reset();
      toast.success('The address works no more.');
      refresh();
    },
    onError: showProblem,
  });
  return (
    <section aria-label="In your calendar" className="mt-8 max-w-3xl">
      <h2 className="text-xl">In your calendar</h2>
      <p className="text-sm text-muted">
        What is soaked, marinated or thawed before, and when you cook, in the calendar of your phone. Whoever
        knows the address reads it, so tell it to nobody else; no client is named in it.
      </p>
      {feed.isError ? <LoadFailed error={feed.error} retry={() => void feed.refetch()} /> : null}
      {feed.data ? (
        <p className="mt-2">
          An address was made on {moment(feed.data.made_at)},{' '}
          {feed.data.read_at ? `last read on ${moment(feed.data.read_at)}` : 'and nobody has read it yet'}.
        </p>
      ) : null}
      {make.isError ? (
        <div className="mt-2">
          <ProblemNotice problem={toProblem(make.error)} />
        </div>
      ) : null}
      {make.data && !make.data.address ? (
        <p role="status" className="mt-2 text-ochre-text">
          An address was made, and got lost on the way. Make a new one: it is shown once.
        </p>
      ) : null}
      {make.data?.address ? (
        <div className="mt-3 rounded-xl border border-steel bg-sheet p-4">
          <p className="figures break-all">{make.data.address}</p>
          <p className="mt-1 text-sm text-muted">
            Add it to your calendar as a subscription. It is shown this once.
          </p>
          {make.data.is_out_of_reach ? (
            <p className="font-medium text-alert">
              No phone reaches this address: it is this computer’s own. End Yantai and start it with{' '}
              <span className="figures">./yantai start --lan</span>, then make a new one.
            </p>
          ) : null}
          <Button
            className="mt-2"
            onClick={() =>
              void navigator.clipboard.writeText(make.data?.address ?? '').then(() => setIsCopied(true))
            }
          >
            {isCopied ? 'Copied' : 'Copy the address'}
          </Button>
        </div>
      ) : null}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button disabled={make.isPending} onClick={() => make.mutate()}>
          {feed.data ? 'Make a new address, end the old one' : 'Make an address'}
        </Button>
        {feed.data ? (
          <Button disabled={end.isPending} onClick={() => end.mutate()}>
            End it
          </Button>
        ) : null}
      </div>
    </section>
  );
}
