import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { sessionQuery } from '~/api/session';
import type { Entry as Kept } from '~/offline/outbox';
import { call } from '~/offline/writes';
import { useNoted } from '~/parts/use-noted';
import { tripQuery } from '~/views/trip/queries';
import { type Entry, withEntries } from '~/views/trip/walking';

/** Beside ticks, receipts and the end of a trip wait. */
const isTick = (one: Kept) => one.path.endsWith('/entries');
const aboutTrip = (id: string) => `trip/${id}`;

/** A trip as this browser knows it, with what waits to be sent, and the way to note something. */
export function useTrip(id: string) {
  const trip = useQuery(tripQuery(id));
  const session = useQuery(sessionQuery);
  const queries = useQueryClient();
  const me = session.data?.name ?? '';
  const show = () => queries.invalidateQueries({ queryKey: tripQuery(id).queryKey, exact: true });
  const { note, noted, toHandIn } = useNoted<Entry>(aboutTrip(id), show, isTick);
  const tick = async (words: string, entry: Omit<Entry, 'happened_at' | 'sent_at'>) => {
    const params = { path: { trip_id: id } };
    const body = { ...entry, happened_at: new Date().toISOString() };
    const made = call('post', '/api/v1/trips/{trip_id}/entries', { params, body });
    const answer = await note(made, { words: [words], href: `/trips/${id}` }).last.catch(() => null);
    if (!answer) return;
    for (const sentence of answer.told) toast(sentence, { duration: 12_000 });
    if (answer.told.length) void queries.invalidateQueries({ queryKey: ['plans'] });
  };
  return {
    query: trip,
    view: trip.data ? withEntries(trip.data, noted, me) : undefined,
    waiting: toHandIn,
    note: tick,
  };
}

export type TripDesk = ReturnType<typeof useTrip>;
