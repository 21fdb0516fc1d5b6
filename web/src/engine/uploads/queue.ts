/** Files on their way to the server: a few at a time, each with its progress; no React here. */

import { Refusal } from '@/api/client';

/** A file with its place on the server: the upload that was announced for it, and where it will be in its batch. */
export type Ticket = { file: File; name: string; id: number; batch: number; index: number };
/** The pages a file came as, and what of an archive was left out, one sentence each. */
export type Outcome = { pages: number[]; leftOut: string[] };
/** What a sender says meanwhile: bytes sent, and why it waits before it goes on by itself, or nothing any more. */
export type Told = { sent: (bytes: number) => void; held: (why: string) => void };
/** Sends one file; rejects with a Refusal. `again`: the stack has it, and it is meant all the same. */
export type Send = (ticket: Ticket, told: Told, again: boolean, signal: AbortSignal) => Promise<Outcome>;

export type Upload = {
  readonly key: number;
  readonly name: string;
  readonly size: number;
  readonly sent: number;
  /**
   * Held: the server cannot take it now; it goes on by itself. Twice: the stack has the same file already; it can be
   * added all the same, or skipped.
   */
  readonly state: 'waiting' | 'sending' | 'held' | 'done' | 'failed' | 'twice';
  readonly error: string;
  readonly pages: readonly number[];
};
/** All uploads, and what they come to. */
export type Uploads = {
  readonly list: readonly Upload[];
  readonly total: number;
  readonly sent: number;
  readonly done: number;
  readonly failed: number;
};

type Item = { upload: Upload; readonly ticket: Ticket; again: boolean; ending?: AbortController };
/** What somebody may skip: all that is not being sent. */
const STILL: ReadonlySet<Upload['state']> = new Set(['waiting', 'failed', 'twice', 'held']);

const AT_ONCE = 2;
/** Progress is told so often: eyes see no more, and thousands of files would do nothing but tell. */
const TELL_MS = 120;
export const NO_UPLOADS: Uploads = { list: [], total: 0, sent: 0, done: 0, failed: 0 };

/** The files of one stack. A snapshot is a new object whenever something changed, with the same objects for what did not. */
export class UploadQueue {
  private items: Item[] = [];
  private snapshot: Uploads = NO_UPLOADS;
  private readonly listeners = new Set<() => void>();
  private running = 0;
  private count = 0;
  private telling: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly send: Send,
    private readonly drop: (id: number) => Promise<unknown>,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get = (): Uploads => this.snapshot;

  /** Uploads that this queue takes care of. */
  ids = (): ReadonlySet<number> => new Set(this.items.map(({ ticket }) => ticket.id));

  add(tickets: readonly Ticket[]): void {
    for (const ticket of tickets) {
      const { name, file } = ticket;
      const key = this.count++;
      const upload: Upload = { key, name, size: file.size, sent: 0, state: 'waiting', error: '', pages: [] };
      this.items.push({ ticket, again: false, upload });
    }
    this.tell();
    this.pump();
  }

  retry(key: number): void {
    const item = this.items.find(({ upload }) => upload.key === key);
    if (!item || !(item.upload.state === 'failed' || item.upload.state === 'twice')) return;
    item.again ||= item.upload.state === 'twice';
    this.set(item, { state: 'waiting', error: '' });
    this.tell();
    this.pump();
  }

  /** Forget a file that has not come in, here and on the server. */
  async skip(key: number): Promise<void> {
    const item = this.items.find(({ upload }) => upload.key === key && STILL.has(upload.state));
    if (!item) return;
    await this.drop(item.ticket.id);
    item.ending?.abort();
    this.items = this.items.filter((one) => one !== item);
    this.tell();
  }

  /** Forget all that have not come in and are not being sent. */
  async skipAll(): Promise<void> {
    for (const { upload } of [...this.items]) if (STILL.has(upload.state)) await this.skip(upload.key);
  }

  /** Forget what is in; what is under way or waits for somebody stays. */
  clear(): void {
    this.items = this.items.filter(({ upload }) => upload.state !== 'done');
    this.tell();
  }

  private set(item: Item, change: Partial<Upload>): void {
    item.upload = { ...item.upload, ...change };
  }

  private pump(): void {
    for (const item of this.items) {
      if (this.running >= AT_ONCE) return;
      if (item.upload.state === 'waiting') void this.run(item);
    }
  }

  private async run(item: Item): Promise<void> {
    this.running += 1;
    const ending = new AbortController();
    item.ending = ending;
    this.set(item, { state: 'sending' });
    this.tellSoon();
    const told: Told = {
      sent: (bytes) => {
        this.set(item, { sent: bytes });
        this.tellSoon();
      },
      held: (why) => {
        this.set(item, { state: why ? 'held' : 'sending', error: why });
        this.tellSoon();
      },
    };
    try {
      const { pages, leftOut } = await this.send(item.ticket, told, item.again, ending.signal);
      this.set(item, { state: 'done', sent: item.upload.size, error: leftOut.join(' '), pages });
    } catch (error) {
      const message = error instanceof Refusal ? error.message : 'The file could not be sent: try again.';
      const twice = error instanceof Refusal && error.status === 409;
      this.set(item, { state: twice ? 'twice' : 'failed', error: message });
    }
    this.running -= 1;
    this.pump();
    // The last one is told at once: whoever waits for it is told no later than it is in.
    if (this.running === 0) this.tell();
    else this.tellSoon();
  }

  private tellSoon(): void {
    this.telling ??= setTimeout(() => this.tell(), TELL_MS);
  }

  private tell(): void {
    clearTimeout(this.telling);
    this.telling = undefined;
    const list = this.items.map(({ upload }) => upload);
    let [total, sent, done, failed] = [0, 0, 0, 0];
    for (const upload of list) {
      total += upload.size;
      sent += upload.sent;
      if (upload.state === 'done') done += 1;
      if (upload.state === 'failed' || upload.state === 'twice') failed += 1;
    }
    this.snapshot = { list, total, sent, done, failed };
    for (const listener of this.listeners) listener();
  }
}
