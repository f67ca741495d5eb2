/** The part of the application that is kept in the browser, and its newer versions. */

type Listener = (take: () => void) => void;

let announce: Listener | null = null;
let found: ServiceWorker | null = null;
let isWanted = false;

/** Hear of a newer version, with the way to take it; nothing is taken by itself. */
export function onNewVersion(listener: Listener) {
  announce = listener;
  if (found) listener(take);
  return () => {
    announce = null;
  };
}

function take() {
  isWanted = true;
  found?.postMessage('take');
}

const isNewer = (worker: ServiceWorker | null) => {
  if (!worker || !navigator.serviceWorker.controller) return;
  found = worker;
  announce?.(take);
};

/** Keep the application for times without a network, where the browser can. */
export async function keepShell() {
  if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return;
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    if (isWanted) window.location.reload();
  });
  try {
    const registration = await navigator.serviceWorker.register('/sw.js');
    isNewer(registration.waiting);
    registration.addEventListener('updatefound', () => {
      const coming = registration.installing;
      coming?.addEventListener('statechange', () => {
        if (coming.state === 'installed') isNewer(coming);
      });
    });
  } catch {
    // A browser that allows none, as in some private windows: with a network everything works as before.
  }
}

/** Nothing of what somebody opened is left to who signs in next. */
export function forgetOpened() {
  navigator.serviceWorker?.controller?.postMessage('forget');
}

/** Whether the application opens again without a network. */
export const isShellKept = () => navigator.serviceWorker?.controller != null;
