import { api, ask } from '~/api/client';
import { queryClient } from '~/api/query-client';
import { forgetDrafts } from '~/lib/use-draft';
import { getOutbox } from '~/offline/writes';

const CHANNEL = 'yantai/person';
const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(CHANNEL);

/** Tell the other tabs who is signed in now; null when nobody is. */
export const tellWhoIsHere = (email: string | null) => channel?.postMessage(email);

/** Nothing of the person of this page stays on it. What they wished and is not sent is kept for them alone. */
export function leavePage() {
  document.body.hidden = true;
  queryClient.clear();
  forgetDrafts();
  getOutbox().close();
  window.location.assign('/');
}

/** Leave as soon as somebody else is signed in in this browser, or nobody is: told by the other tab, or found out. */
export function watchPerson(email: string): () => void {
  const hear = (event: MessageEvent<string | null>) => {
    if (event.data !== email) leavePage();
  };
  // A tab that slept may have missed it.
  const look = async () => {
    if (document.visibilityState !== 'visible') return;
    const now = await ask(api.GET('/api/v1/session')).catch(() => null);
    if (now && now.email !== email) leavePage();
  };
  channel?.addEventListener('message', hear);
  document.addEventListener('visibilitychange', look);
  return () => {
    channel?.removeEventListener('message', hear);
    document.removeEventListener('visibilitychange', look);
  };
}
