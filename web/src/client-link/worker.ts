/**
 * Keeps the client's page on the phone, so that it opens without a network; what it shows then it has kept itself.
 * The page is asked of the server first, its scripts and letters never change under their names.
 */

export {};

type Waiting = { waitUntil: (work: Promise<unknown>) => void };
type Asked = Waiting & { request: Request; respondWith: (answer: Promise<Response>) => void };
type Kept = {
  addEventListener(kind: 'install' | 'activate', listener: (event: Waiting) => void): void;
  addEventListener(kind: 'fetch', listener: (event: Asked) => void): void;
  skipWaiting: () => Promise<void>;
  clients: { claim: () => Promise<void> };
  location: Location;
};

const worker = self as unknown as Kept;
const CACHE = 'my-page';
const PAGE = '/my';

worker.addEventListener('install', (event) => {
  event.waitUntil(keepPage().then(() => worker.skipWaiting()));
});

worker.addEventListener('activate', (event) => {
  event.waitUntil(worker.clients.claim());
});

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== worker.location.origin || url.pathname.startsWith('/api/'))
    return;
  if (request.mode === 'navigate') event.respondWith(freshPage(request));
  else if (url.pathname.startsWith('/assets/')) event.respondWith(lasting(request));
});

/** The page with all that it names: scripts, styles, and the letters that those name. */
async function keepPage() {
  const cache = await caches.open(CACHE);
  const page = await fetch(PAGE);
  await cache.put(PAGE, page.clone());
  const named = namedIn(await page.text(), /(?:src|href)="(\/assets\/[^"]+)"/g);
  await cache.addAll(named);
  for (const sheet of named.filter((one) => one.endsWith('.css'))) {
    const text = await (await cache.match(sheet))?.text();
    // Latin letters: others are kept when they are first asked for.
    const letters = namedIn(text ?? '', /url\((\/assets\/[^)]*latin-wght[^)]*)\)/g);
    await cache.addAll(letters);
  }
}

const namedIn = (text: string, pattern: RegExp) => [
  ...new Set([...text.matchAll(pattern)].map((found) => found[1] ?? '')),
];

async function freshPage(request: Request): Promise<Response> {
  const cache = await caches.open(CACHE);
  try {
    const page = await fetch(request);
    if (page.ok) await cache.put(PAGE, page.clone());
    return page;
  } catch (error) {
    const kept = await cache.match(PAGE);
    if (kept) return kept;
    throw error;
  }
}

async function lasting(request: Request): Promise<Response> {
  const cache = await caches.open(CACHE);
  const kept = await cache.match(request);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}
