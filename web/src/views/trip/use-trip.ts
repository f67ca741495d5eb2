import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { sessionQuery } from '~/api/session';
import { useOutbox } from '~/offline/use-outbox';
import { call, write } from '~/offline/writes';
import { showProblem } from '~/parts/show-problem';
import { tripQuery } from '~/views/trip/queries';
import { type Entry, withEntries } from '~/views/trip/walking';

const aboutTrip = (id: string) => `trip/${id}`;

/** A trip as this browser knows it, with what waits to be sent, and the way to note something. */
export function useTrip(id: string) {
  const trip = useQuery(tripQuery(id));
  const session = useQuery(sessionQuery);
  const queries = useQueryClient();
  const outbox = useOutbox();
  const waiting = outbox.filter((one) => one.about === aboutTrip(id) && one.path.endsWith('/entries'));
  const me = session.data?.name ?? '';
  const note = (words: string, entry: Omit<Entry, 'happened_at' | 'sent_at'>) =>
    write(
      call('post', '/api/v1/trips/{trip_id}/entries', {
        params: { path: { trip_id: id } },
        body: { ...entry, happened_at: new Date().toISOString() },
      }),
      { about: aboutTrip(id), words: [words], href: `/trips/${id}` },
    ).then(({ told }) => {
      for (const sentence of told) toast(sentence, { duration: 12_000 });
      if (told.length) void queries.invalidateQueries({ queryKey: ['plans'] });
      return queries.invalidateQueries({ queryKey: tripQuery(id).queryKey, exact: true });
    }, showProblem);
  return {
    query: trip,
    view: trip.data
      ? withEntries(
          trip.data,
          waiting.map((one) => one.body as Entry),
          me,
        )
      : undefined,
    waiting: waiting.length,
    note,
  };
}

export type TripDesk = ReturnType<typeof useTrip>;
