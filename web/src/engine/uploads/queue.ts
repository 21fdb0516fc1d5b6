/** Files on their way to the server: a few at a time, each with its progress; no React here. */

import { Refusal } from '@/api/client';

/** A file with its place on the server: the upload that was announced for it. */
export type Ticket = { file: File; name: string; id: number };
/** The pages a file came as, and what of an archive was left out, one sentence each. */
export type Outcome = { pages: number[]; leftOut: string[] };
/** What a sender says meanwhile: bytes sent, and why it waits before it goes on by itself, or nothing any more. */
export type Told = { sent: (bytes: number) => void; held: (why: string) => void };
/** Sends one file; rejects with a Refusal. `again`: the stack has it, and it is meant all the same. */
export type Send = (ticket: Ticket, told: Told, again: boolean, signal: AbortSignal) => Promise<Outcome>;

export type Upload = {
  key: number;
  name: string;
  size: number;
  sent: number;
  /**
   * Held: the server cannot take it now; it goes on by itself. Twice: the stack has the same file already; it can be
   * taken in all the same, or left out.
   */
  state: 'waiting' | 'sending' | 'held' | 'done' | 'failed' | 'twice';
  error: string;
  pages: readonly number[];
};

type Item = Upload & { ticket: Ticket; again: boolean; ending?: AbortController };
/** What somebody may leave out: all that stands still. */
const STILL: ReadonlySet<Upload['state']> = new Set(['failed', 'twice', 'held']);

const AT_ONCE = 2;

/** The files of one stack. Snapshots are new arrays, so that a view can tell that something changed. */
export class UploadQueue {
  private items: Item[] = [];
  private snapshot: readonly Upload[] = [];
  private listeners = new Set<() => void>();
  private running = 0;
  private count = 0;

  constructor(
    private readonly send: Send,
    private readonly drop: (id: number) => Promise<unknown>,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  get = (): readonly Upload[] => this.snapshot;

  /** Uploads that this queue takes care of. */
  ids = (): ReadonlySet<number> => new Set(this.items.map(({ ticket }) => ticket.id));

  add(tickets: readonly Ticket[]): void {
    this.items.push(
      ...tickets.map((ticket) => ({
        ticket,
        name: ticket.name,
        key: this.count++,
        size: ticket.file.size,
        sent: 0,
        again: false,
        state: 'waiting' as const,
        error: '',
        pages: [],
      })),
    );
    this.tell();
    this.pump();
  }

  retry(key: number): void {
    const item = this.items.find((one) => one.key === key && (one.state === 'failed' || one.state === 'twice'));
    if (!item) return;
    Object.assign(item, { again: item.again || item.state === 'twice', state: 'waiting', error: '' });
    this.tell();
    this.pump();
  }

  /** Leave a file out that was not taken in. */
  async leaveOut(key: number): Promise<void> {
    const item = this.items.find((one) => one.key === key && STILL.has(one.state));
    if (!item) return;
    await this.drop(item.ticket.id);
    item.ending?.abort();
    this.items = this.items.filter((one) => one !== item);
    this.tell();
  }

  /** Forget what is in; what is under way or waits for somebody stays. */
  clear(): void {
    this.items = this.items.filter(({ state }) => state !== 'done');
    this.tell();
  }

  private pump(): void {
    for (const item of this.items) {
      if (this.running >= AT_ONCE) return;
      if (item.state === 'waiting') void this.run(item);
    }
  }

  private async run(item: Item): Promise<void> {
    this.running += 1;
    item.state = 'sending';
    const ending = new AbortController();
    item.ending = ending;
    this.tell();
    const told: Told = {
      sent: (bytes) => {
        item.sent = bytes;
        this.tell();
      },
      held: (why) => {
        Object.assign(item, { state: why ? 'held' : 'sending', error: why });
        this.tell();
      },
    };
    try {
      const { pages, leftOut } = await this.send(item.ticket, told, item.again, ending.signal);
      Object.assign(item, { state: 'done', sent: item.size, error: leftOut.join(' '), pages });
    } catch (error) {
      const message = error instanceof Refusal ? error.message : 'The file could not be sent: try again.';
      const twice = error instanceof Refusal && error.status === 409;
      Object.assign(item, { state: twice ? 'twice' : 'failed', error: message });
    }
    this.running -= 1;
    this.tell();
    this.pump();
  }

  private tell(): void {
    this.snapshot = this.items.map(({ ticket: _, again: __, ending: ___, ...shown }) => shown);
    for (const listener of this.listeners) listener();
  }
}
