import { useSyncExternalStore } from 'react';

/** Whether what is shown is of this kind: on paper, on a narrow screen. */
function useMedia(query: string) {
  const subscribe = (changed: () => void) => {
    const list = window.matchMedia(query);
    list.addEventListener('change', changed);
    return () => list.removeEventListener('change', changed);
  };
  return useSyncExternalStore(subscribe, () => window.matchMedia(query).matches);
}

/** Whether the page is being printed: what is only for paper is not kept in the page on the screen. */
export const usePrinting = () => useMedia('print');

/** Whether the screen is that of a phone: tables are told line below line there. */
export const usePhone = () => useMedia('(max-width: 639px)');
