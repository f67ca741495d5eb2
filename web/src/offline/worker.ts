/**
 * Keeps the application and what was opened in it, so that it opens without a network through reload and restart.
 *
 * The shell (page, scripts, styles, fonts) is taken from what was kept, whole and of one version; a newer one waits until
 * it is asked for. What the server says is asked of the server first, and of what was kept only when it cannot be reached.
 */

// It is a file of its own in the browser, not a module of the application.
export {};

type Waiting = { waitUntil: (work: Promise<unknown>) => void };
type Asked = Waiting & { request: Request; respondWith: (answer: Promise<Response>) => void };
type Told = { data: unknown };
type Kept = {
  addEventListener(kind: 'install' | 'activate', listener: (event: Waiting) => void): void;
  addEventListener(kind: 'fetch', listener: (event: Asked) => void): void;
  addEventListener(kind: 'message', listener: (event: Told) => void): void;
  skipWaiting: () => Promise<void>;
  clients: { claim: () => Promise<void> };
  location: Location;
};

const worker = self as unknown as Kept;

/** The files of this build with their version; written in when it is built. */
const SHELL = JSON.parse('__SHELL__') as { version: string; files: string[] };
const SHELL_CACHE = `shell-${SHELL.version}`;
const OPENED = 'opened';
const MOST_OPENED = 300;
const API = '/api/v1/';
const SESSION = '/api/v1/session';
/** What is a stream, a file to save, or asked before anybody has signed in. */
const NEVER_KEPT = /\/(events|readings|tried|health|installation|my)$|\.(csv|json)$/;
/** Counts how often everything was forgotten: what was asked before is not kept after. */
let forgotten = 0;

worker.addEventListener('install', (event) => {
  event.waitUntil(caches.open(SHELL_CACHE).then((cache) => cache.addAll(['/', ...SHELL.files])));
});

worker.addEventListener('activate', (event) => {
  event.waitUntil(dropOlder().then(() => worker.clients.claim()));
});

worker.addEventListener('message', ({ data }) => {
  if (data === 'take') void worker.skipWaiting();
  if (data === 'forget') {
    forgotten += 1;
    void caches.delete(OPENED);
  }
});

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== worker.location.origin) return;
  if (url.pathname.startsWith(API)) {
    if (!NEVER_KEPT.test(url.pathname)) event.respondWith(opened(request, url));
  } else if (request.mode === 'navigate') {
    // A client's own page is none of the application's.
    if (url.pathname === '/my') return;
    event.respondWith(ofShell('/', request));
  } else if (SHELL.files.includes(url.pathname)) {
    event.respondWith(ofShell(url.pathname, request));
  }
});

async function dropOlder() {
  const names = await caches.keys();
  const older = names.filter((name) => name.startsWith('shell-') && name !== SHELL_CACHE);
  await Promise.all(older.map((name) => caches.delete(name)));
}

async function ofShell(path: string, request: Request): Promise<Response> {
  const cache = await caches.open(SHELL_CACHE);
  return (await cache.match(path)) ?? fetch(request);
}

/** What the server says; what it said last where it cannot be reached. */
async function opened(request: Request, url: URL): Promise<Response> {
  const before = forgotten;
  let answer: Response;
  try {
    answer = await fetch(request);
  } catch (error) {
    const kept = await (await caches.open(OPENED)).match(request.url);
    if (kept) return kept;
    throw error;
  }
  // Storage that is full keeps nothing more; the answer is there all the same.
  if (answer.ok && before === forgotten) await keep(url, answer.clone()).catch(() => undefined);
  return answer;
}

async function keep(url: URL, answer: Response) {
  let cache = await caches.open(OPENED);
  if (url.pathname === SESSION && (await isAnother(cache, answer.clone()))) {
    await caches.delete(OPENED);
    cache = await caches.open(OPENED);
  }
  await cache.put(url.href, answer);
  const kept = await cache.keys();
  await Promise.all(kept.slice(0, Math.max(kept.length - MOST_OPENED, 0)).map((old) => cache.delete(old)));
}

/** Somebody else has signed in than who opened what is kept. */
async function isAnother(cache: Cache, answer: Response): Promise<boolean> {
  const before = await cache.match(new URL(SESSION, worker.location.origin).href);
  if (!before) return false;
  const [was, now] = (await Promise.all([before.json(), answer.json()])) as { email: string }[];
  return was?.email !== now?.email;
}
