import { useSyncExternalStore } from 'react';

const print = () => window.matchMedia('print');

function subscribe(changed: () => void) {
  const query = print();
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
}

/** Whether the page is being printed: what is only for paper is not kept in the page on the screen. */
export const usePrinting = () => useSyncExternalStore(subscribe, () => print().matches);
