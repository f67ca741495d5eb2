import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from '~/api/schema.gen';
import { signInAgain } from '~/api/sign-in-again';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

/** What the server says is wrong; thrown by every call that does not succeed. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

let csrfToken = '';
let email = '';

/** Whose page this is: what is typed in it is never saved to somebody else's kitchen. */
export function keepWhose(account: { csrf_token: string; email: string }) {
  csrfToken = account.csrf_token;
  email = account.email;
}

/** Each request as it was, to be made once more: its body can be read only once. */
const copies = new WeakMap<Request, Request>();

const SESSION = '/api/v1/session';

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', csrfToken);
    copies.set(request, request.clone());
  },
  async onResponse({ request, response, schemaPath }) {
    const copy = copies.get(request);
    if (!copy || schemaPath === SESSION || !(await isBack(response))) return undefined;
    if (copy.method !== 'GET') copy.headers.set('X-CSRF-Token', csrfToken);
    return fetch(copy);
  },
};

/** Whether a call that was refused for want of a session can be made again: somebody signed in, here or in another tab. */
async function isBack(refused: Response): Promise<boolean> {
  if (refused.status === 401) return signInAgain();
  if (refused.status !== 403) return false;
  // Signing in in another tab made another token, which is the same person's as long as the page's account is.
  const answer = await fetch(SESSION);
  if (answer.status === 401) return signInAgain();
  if (!answer.ok) return false;
  const account = (await answer.json()) as Schemas['AccountView'];
  if (account.email !== email || account.csrf_token === csrfToken) return false;
  keepWhose(account);
  return true;
}

export const api = createClient<paths>({ baseUrl: '/' });
api.use(withToken);

const UNREACHABLE: Problem = {
  type: 'unreachable',
  title: 'No connection',
  status: 0,
  instance: '',
  detail: 'The server does not answer. What you typed is still here: check that Yantai runs, then try again.',
  errors: [],
  mends: [],
};

/** The data of an answer, or a `ProblemError`; a lost connection and a non-JSON answer become problems too. */
export async function ask<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new ProblemError(UNREACHABLE);
  }
  if (answer.response.ok) return answer.data as T;
  throw new ProblemError(
    isProblem(answer.error) ? answer.error : { ...UNREACHABLE, status: answer.response.status },
  );
}

export function toProblem(error: unknown): Problem {
  return error instanceof ProblemError
    ? error.problem
    : { ...UNREACHABLE, title: 'This did not work', detail: String(error) };
}

function isProblem(value: unknown): value is Problem {
  return typeof value === 'object' && value !== null && 'detail' in value && 'errors' in value;
}
