/**
 * Calls to the server, each bound to the schema of its address. A refusal is thrown as a Refusal whose message is fit to be
 * shown.
 */

import createClient from 'openapi-fetch';
import type { paths } from './schema';

export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
    /** The server's word for the kind of refusal; empty where it has none. */
    readonly code = '',
  ) {
    super(message);
  }

  /** Whether the same may be done a moment later: the machine, or the line, is short of something. */
  get passing(): boolean {
    return this.status === 0 || this.status === 429 || this.status >= 500;
  }
}

const UNREACHABLE = 'The server does not answer. Check that it is running, then try again.';
let csrf = '';

/** The token that every change carries; it comes with the session. */
export function setCsrf(token: string): void {
  csrf = token;
}

export function csrfToken(): string {
  return csrf;
}

/** The sentence in a refusal's body, or one for its status. */
export function refusalFrom(status: number, body: string): Refusal {
  try {
    const { detail, code } = JSON.parse(body) ?? {};
    if (typeof detail === 'string') return new Refusal(detail, status, code);
  } catch {
    // not ours: say what can be said
  }
  if (status === 0) return new Refusal(UNREACHABLE, 0);
  if (status === 401) return new Refusal('You are no longer signed in: sign in again.', 401);
  return new Refusal(`The server could not do that (status ${status}): try again.`, status);
}

/** Asks, and throws what is refused; a token that ran out in the meantime is fetched anew, once. */
export async function ask(request: Request): Promise<Response> {
  const again = request.clone();
  try {
    return await asked(request);
  } catch (problem) {
    if (!(problem instanceof Refusal && problem.code === 'foreign')) throw problem;
    const session = await asked(new Request(new URL('/api/v1/session', request.url)));
    setCsrf((await session.json()).csrf);
    return asked(again);
  }
}

async function asked(request: Request): Promise<Response> {
  request.headers.set('X-CSRFToken', csrf);
  let response: Response;
  try {
    response = await fetch(request);
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Refusal(UNREACHABLE, 0);
  }
  if (!response.ok) throw refusalFrom(response.status, await response.text());
  return response;
}

export const api = createClient<paths>({ baseUrl: globalThis.location?.origin ?? 'http://localhost', fetch: ask });

/** Whether a body is small enough to arrive although the page that sends it is closed meanwhile: a browser takes 64 kB so. */
export const outlives = (body: unknown): boolean => JSON.stringify(body).length < 60_000;

/** What an address answers; what it refuses was thrown. */
export async function told<T>(call: Promise<{ data?: T }>): Promise<NonNullable<T>> {
  const { data } = await call;
  if (data === undefined || data === null) throw new Refusal('The server answered with nothing: try again.', 502);
  return data;
}

/** Has something done whose answer says nothing. */
export async function done(call: Promise<unknown>): Promise<void> {
  await call;
}
