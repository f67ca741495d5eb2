import { useEffect, useRef } from 'react';

/** What the server tells of a batch: a change of the plan, by whom, or what was noted at the stove or at the scale. */
type Told = { version: number; by: string; cooked?: number };
type Listener = (told: Told) => void;
type Shared = { source: EventSource; listeners: Set<Listener> };

/** One connection for a batch, however many parts of the page listen: a browser has few of them for a server. */
const open = new Map<string, Shared>();

function listen(batchId: string, listener: Listener) {
  const shared = open.get(batchId) ?? connect(batchId);
  shared.listeners.add(listener);
  return () => {
    shared.listeners.delete(listener);
    if (shared.listeners.size > 0) return;
    shared.source.close();
    open.delete(batchId);
  };
}

function connect(batchId: string): Shared {
  const shared = {
    source: new EventSource(`/api/v1/batches/${batchId}/events`),
    listeners: new Set<Listener>(),
  };
  shared.source.onmessage = (event: MessageEvent<string>) => {
    const told = JSON.parse(event.data) as Told;
    for (const listener of [...shared.listeners]) listener(told);
  };
  open.set(batchId, shared);
  return shared;
}

/** Hear of what others do with a batch, as it comes. */
export function useToldOf(batchId: string, onTold: Listener) {
  const latest = useRef(onTold);
  latest.current = onTold;
  useEffect(() => listen(batchId, (told) => latest.current(told)), [batchId]);
}
