/** Calls to the server. A refusal is thrown as a Refusal whose message is fit to be shown. */

export class Refusal extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The server does not answer: check that it is running, then try again.';
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
    const detail: unknown = JSON.parse(body)?.detail;
    if (typeof detail === 'string') return new Refusal(detail, status);
  } catch {
    // not ours: say what can be said
  }
  if (status === 0) return new Refusal(UNREACHABLE, 0);
  if (status === 401) return new Refusal('You are no longer signed in: sign in again.', 401);
  return new Refusal(`The server could not do that (status ${status}): try again.`, status);
}

async function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method,
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrf },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Refusal(UNREACHABLE, 0);
  }
  const text = await response.text();
  if (!response.ok) throw refusalFrom(response.status, text);
  // Where nothing is to be said, nothing is.
  return (text ? JSON.parse(text) : undefined) as T;
}

export const get = <T>(path: string, signal?: AbortSignal) => call<T>('GET', path, undefined, signal);
export const post = <T>(path: string, body: unknown) => call<T>('POST', path, body);
export const put = <T>(path: string, body: unknown) => call<T>('PUT', path, body);
export const patch = <T>(path: string, body: unknown) => call<T>('PATCH', path, body);
export const remove = <T>(path: string) => call<T>('DELETE', path);
