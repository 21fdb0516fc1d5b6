import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, done, Refusal, refusalFrom, setCsrf, told } from './client';

const answers = (...responses: (Response | Error)[]) => {
  const asked: Request[] = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push(request);
    const next = responses.shift();
    if (!next || next instanceof Error) throw next ?? new TypeError('nothing more to answer');
    return next;
  });
  return asked;
};
const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });
const refused = (status: number, detail: string, code = 'refused') => json(status, { detail, code });

afterEach(() => vi.unstubAllGlobals());

describe('a call to the server', () => {
  it('gives what is told, and carries the token', async () => {
    setCsrf('one');
    const asked = answers(json(200, { csrf: 'x', user: 'keeper' }));
    expect(await told(api.GET('/api/v1/session'))).toMatchObject({ user: 'keeper' });
    expect(asked[0]?.headers.get('X-CSRFToken')).toBe('one');
  });

  it('throws the sentence of a refusal', async () => {
    answers(refused(422, 'The name is empty.'));
    await expect(told(api.POST('/api/v1/stacks', { body: { name: '' } }))).rejects.toEqual(
      new Refusal('The name is empty.', 422, 'refused'),
    );
  });

  it('says that the server does not answer', async () => {
    answers(new TypeError('Failed to fetch'));
    await expect(done(api.DELETE('/api/v1/session'))).rejects.toMatchObject({ status: 0, passing: true });
  });

  it('fetches a token that ran out, and asks again once', async () => {
    setCsrf('old');
    const stranger = () => refused(403, 'This request did not come from the page itself.', 'foreign');
    const asked = answers(stranger(), json(200, { csrf: 'new' }), json(201, { id: 7 }));
    expect(await told(api.POST('/api/v1/stacks', { body: { name: 'Box' } }))).toMatchObject({ id: 7 });
    expect(asked.map((one) => one.headers.get('X-CSRFToken'))).toEqual(['old', 'old', 'new']);
    expect(await asked[2]?.json()).toEqual({ name: 'Box' });
    answers(stranger(), json(200, { csrf: 'new' }), stranger());
    await expect(told(api.POST('/api/v1/stacks', { body: { name: 'Box' } }))).rejects.toMatchObject({ status: 403 });
  });

  it('does not ask again where somebody may not', async () => {
    const asked = answers(refused(403, 'Only administrators may do that.', 'forbidden'));
    await expect(told(api.GET('/api/v1/people'))).rejects.toMatchObject({ status: 403 });
    expect(asked).toHaveLength(1);
  });
});

it.each([
  [502, '<html>Bad gateway</html>', 'The server could not do that (status 502): try again.', true],
  [401, '', 'You are no longer signed in: sign in again.', false],
  [409, '{"detail": "Somebody else was quicker."}', 'Somebody else was quicker.', false],
  [507, '{"detail": "The disk is full."}', 'The disk is full.', true],
])('a refusal with status %i reads as a sentence', (status, body, message, passing) => {
  expect(refusalFrom(status, body)).toMatchObject({ message, status, passing });
});
