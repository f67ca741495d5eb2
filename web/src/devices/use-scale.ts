import { queryOptions, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { api, ask, type Schemas } from '~/api/client';
import type { Reading } from '~/devices/reading';
import { readPort } from '~/devices/web-serial';

export type Instrument = Schemas['InstrumentView'];

/** The scales and thermometers of the kitchen. */
export const instrumentsQuery = queryOptions({
  queryKey: ['instruments'],
  queryFn: () => ask(api.GET('/api/v1/instruments')),
});

const CHOSEN = 'yantai/scale';
const listeners = new Set<() => void>();

/** The scale of this tablet; nothing where weights are typed. */
const chosen = () => localStorage.getItem(CHOSEN) ?? '';

export function chooseScale(id: string) {
  if (id) localStorage.setItem(CHOSEN, id);
  else localStorage.removeItem(CHOSEN);
  for (const told of listeners) told();
}

const useChosen = () =>
  useSyncExternalStore((told) => {
    listeners.add(told);
    return () => listeners.delete(told);
  }, chosen);

/** A scale that says nothing for so long is lost, be it its plug or the network. */
const LOST_AFTER_MS = 1000;

type Shown = { reading: Reading | null; isLost: boolean };

export type Scale = Shown & {
  /** The scale of this tablet; undefined where weights are typed. */
  instrument: Instrument | undefined;
  tare: () => void;
};

/** The scale that was chosen on this tablet, with what it shows as it moves. */
export function useScale(): Scale {
  const id = useChosen();
  const instrument = useQuery(instrumentsQuery).data?.find((one) => one.id === id && one.kind === 'scale');
  const tare = () => {
    if (!instrument || instrument.connection === 'tablet') return;
    void api.POST('/api/v1/instruments/{instrument_id}/tare', {
      params: { path: { instrument_id: instrument.id } },
    });
  };
  return { instrument, tare, ...useReadings(instrument) };
}

/** What a scale or a thermometer shows as it moves. */
export function useReadings(instrument: Instrument | undefined): Shown {
  const [reading, setReading] = useState<Reading | null>(null);
  const [isLost, setIsLost] = useState(false);
  const latest = useRef(instrument);
  latest.current = instrument;
  const key = instrument ? JSON.stringify(instrument) : '';
  useEffect(() => {
    const here = latest.current;
    setReading(null);
    setIsLost(false);
    if (!key || !here) return;
    const ended = new AbortController();
    let lastHeard = performance.now();
    const alive = () => {
      lastHeard = performance.now();
    };
    const hear = (next: Reading) => {
      alive();
      setIsLost(next.state === 'lost');
      if (next.state !== 'lost') setReading(next);
    };
    const watching = setInterval(() => {
      if (performance.now() - lastHeard > LOST_AFTER_MS) setIsLost(true);
    }, LOST_AFTER_MS / 4);
    if (here.connection === 'tablet') {
      const talk = {
        baud: here.baud,
        isAsked: here.talk === 'on request',
        silentUnit: here.silent_unit,
        stepG: here.step_g,
      };
      void readPort(talk, hear, ended.signal);
    } else listen(here.id, hear, alive, ended.signal);
    return () => {
      ended.abort();
      clearInterval(watching);
    };
  }, [key]);
  return { reading: instrument ? reading : null, isLost };
}

/** Readings that the server passes on; the browser connects again by itself. */
function listen(id: string, hear: (reading: Reading) => void, alive: () => void, signal: AbortSignal) {
  const source = new EventSource(`/api/v1/instruments/${id}/readings`);
  source.onmessage = (event: MessageEvent<string>) => hear(JSON.parse(event.data) as Reading);
  source.addEventListener('alive', alive);
  signal.addEventListener('abort', () => source.close());
}
