import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Refusal } from '@/api/client';
import { inOrder, suggestedName } from './files';
import { type Outcome, type Send, type Ticket, type Told, UploadQueue } from './queue';
import { matched } from './stackUploads';
import { goesOn } from './tus';

const named = (...names: string[]) => names.map((name) => ({ file: new File(['abc'], name), name }));

const tickets = (...names: string[]): Ticket[] =>
  named(...names).map((one, id) => ({ ...one, id, batch: 1, index: id }));
const DONE: Outcome = { pages: [7], leftOut: [] };
const kept = async () => undefined;
/** What is told of the first file, once there has been time to tell it. */
const first = (queue: UploadQueue) => {
  vi.advanceTimersByTime(200);
  return queue.get().list[0];
};

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] }));
afterEach(() => vi.useRealTimers());
const resumed = () => new Promise<void>((resume) => setImmediate(resume));

/** A sender whose files are let through by hand. */
function gated() {
  const gates = new Map<
    string,
    { resolve: (outcome: Outcome) => void; reject: (error: Error) => void; told: Told; signal: AbortSignal }
  >();
  const send: Send = ({ name }, told, _, signal) =>
    new Promise((resolve, reject) => gates.set(name, { resolve, reject, told, signal }));
  const settle = async (name: string, error?: Error) => {
    error ? gates.get(name)?.reject(error) : gates.get(name)?.resolve(DONE);
    await resumed();
  };
  return { send, settle, gates };
}

describe('uploads', () => {
  it('sends two at once, in order', async () => {
    const { send, settle, gates } = gated();
    const queue = new UploadQueue(send, kept);
    queue.add(tickets('a', 'b', 'c'));
    expect([...gates.keys()]).toEqual(['a', 'b']);
    await settle('a');
    expect([...gates.keys()]).toEqual(['a', 'b', 'c']);
    vi.advanceTimersByTime(200);
    expect(queue.get().list.map(({ state }) => state)).toEqual(['done', 'sending', 'sending']);
  });

  it('tells of thousands of files no more often than eyes see, and the end at once', async () => {
    const { send, settle, gates } = gated();
    const queue = new UploadQueue(send, kept);
    let told = 0;
    queue.subscribe(() => {
      told += 1;
    });
    queue.add(tickets('a', 'b'));
    for (let sent = 0; sent < 500; sent++) gates.get('a')?.told.sent(sent);
    expect(told).toBe(1);
    const before = queue.get().list[1];
    vi.advanceTimersByTime(200);
    expect(told).toBe(2);
    // What did not change is the same object: nothing is drawn anew for it.
    expect(queue.get().list[1]?.name).toBe(before?.name);
    await settle('a');
    await settle('b');
    expect(queue.get()).toMatchObject({ done: 2, failed: 0, total: 6, sent: 6 });
  });

  it('skips all that have not come, but nothing that is being sent', async () => {
    const { send } = gated();
    const dropped: number[] = [];
    const queue = new UploadQueue(send, async (id) => dropped.push(id));
    queue.add(tickets('a', 'b', 'c', 'd'));
    await queue.skipAll();
    expect(dropped).toEqual([2, 3]);
    expect(queue.get().list.map(({ name }) => name)).toEqual(['a', 'b']);
  });

  it('tells how far each file is', () => {
    const { send, gates } = gated();
    const queue = new UploadQueue(send, kept);
    queue.add(tickets('a'));
    gates.get('a')?.told.sent(2);
    expect(first(queue)).toMatchObject({ sent: 2, size: 3 });
  });

  it('says why a file waits, goes on by itself, and can be left out meanwhile', async () => {
    const { send, settle, gates } = gated();
    const dropped: number[] = [];
    const queue = new UploadQueue(send, async (id) => dropped.push(id));
    queue.add(tickets('a', 'b'));
    gates.get('a')?.told.held('There is no room left on the disk.');
    expect(first(queue)).toMatchObject({ state: 'held', error: 'There is no room left on the disk.' });
    gates.get('a')?.told.held('');
    expect(first(queue)).toMatchObject({ state: 'sending', error: '' });
    await settle('a');
    gates.get('b')?.told.held('There is no room left on the disk.');
    await queue.skip(1);
    expect(gates.get('b')?.signal.aborted).toBe(true);
    expect(dropped).toEqual([1]);
    expect(queue.get().list.map(({ state }) => state)).toEqual(['done']);
  });

  it.each([
    [507, 200, true],
    [503, 200, true],
    [0, 200, true],
    [507, 225, false],
    [500, 5, true],
    [500, 6, false],
    [422, 0, false],
    [409, 0, false],
  ])('answer %i after %i attempts is tried again by itself: %s', (status, attempt, expected) => {
    expect(goesOn(new Refusal('', status), attempt)).toBe(expected);
  });

  it('lets the rest go on when one fails, says why, and tries again when asked', async () => {
    const { send, settle } = gated();
    const queue = new UploadQueue(send, kept);
    queue.add(tickets('a', 'b'));
    await settle('a', new Refusal('The file is empty: copy or scan it again.', 422));
    await settle('b');
    expect(queue.get().list.map(({ state }) => state)).toEqual(['failed', 'done']);
    expect(first(queue)?.error).toContain('empty');
    queue.retry(0);
    await settle('a');
    expect(first(queue)).toMatchObject({ state: 'done', error: '' });
  });
});

describe('a file that the stack has already', () => {
  it('is said to be there twice, and taken in when that is meant', async () => {
    const asked: boolean[] = [];
    const queue = new UploadQueue(async (_ticket, _told, again) => {
      asked.push(again);
      if (!again) throw new Refusal('The same file is in the stack already.', 409);
      return DONE;
    }, kept);
    queue.add(tickets('a'));
    await resumed();
    expect(first(queue)).toMatchObject({ state: 'twice', error: 'The same file is in the stack already.' });
    queue.retry(0);
    await resumed();
    expect(first(queue)?.state).toBe('done');
    expect(asked).toEqual([false, true]);
  });
});

describe('a file that is left out', () => {
  it('is forgotten here and on the server', async () => {
    const dropped: number[] = [];
    const queue = new UploadQueue(
      async () => {
        throw new Refusal('The file is empty: copy or scan it again.', 422);
      },
      async (id) => dropped.push(id),
    );
    queue.add(tickets('a', 'b'));
    await resumed();
    await queue.skip(1);
    expect(dropped).toEqual([1]);
    expect(queue.get().list.map(({ name }) => name)).toEqual(['a']);
  });
});

describe('files chosen again after a break', () => {
  const file = (name: string, size: number, lastModified: number) => ({
    name,
    file: new File(['x'.repeat(size)], name, { lastModified }),
  });
  const expected = {
    id: 5,
    batch: 1,
    index: 0,
    name: 'a.jpg',
    bytes: 3,
    received: 1,
    modified_at: new Date(1000).toISOString(),
  };

  it('go on as what was announced, each once', () => {
    const { known, fresh } = matched(
      [file('a.jpg', 3, 1000), file('a.jpg', 3, 1000), file('b.jpg', 3, 1000)],
      [expected],
    );
    expect(known.map(({ id }) => id)).toEqual([5]);
    expect(fresh.map(({ name }) => name)).toEqual(['a.jpg', 'b.jpg']);
  });

  it.each([
    ['another size', file('a.jpg', 4, 1000)],
    ['written at another time', file('a.jpg', 3, 2000)],
    ['another name', file('c.jpg', 3, 1000)],
  ])('are new where they differ: %s', (_, one) => {
    expect(matched([one], [expected]).known).toEqual([]);
  });
});

describe('chosen files', () => {
  it('come in natural order without hidden ones', () => {
    const files = named('box/page 10.jpg', 'box/page 2.jpg', 'box/.DS_Store', '.git/x');
    expect(inOrder(files).map(({ name }) => name)).toEqual(['box/page 2.jpg', 'box/page 10.jpg']);
  });

  it.each([
    [['Box 27/a.jpg', 'Box 27/b.jpg'], 'Box 27'],
    [['report.tif'], 'report'],
    [['a.jpg', 'b.jpg'], ''],
    [[], ''],
  ])('%j suggest the name “%s”', (names, suggested) => {
    expect(suggestedName(names)).toBe(suggested);
  });
});
