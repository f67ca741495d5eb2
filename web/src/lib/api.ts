import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from '~/lib/schema.gen';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

/** What the server says is wrong; thrown by every call that does not succeed. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

let csrfToken = '';

export function keepCsrfToken(token: string) {
  csrfToken = token;
}

const withToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', csrfToken);
  },
};

export const api = createClient<paths>({ baseUrl: '/' });
api.use(withToken);

const UNREACHABLE: Problem = {
  type: 'unreachable',
  title: 'No connection',
  status: 0,
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
