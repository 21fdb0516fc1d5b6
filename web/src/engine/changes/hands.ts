/** What hands do to the pages of a stack: does what `outbox` decides. One for each stack, whatever view is open. */

import { change, turn } from '@/api/changes';
import { Refusal } from '@/api/client';
import type { Doing } from '@/api/types';
import { EMPTY, type Happening, type Job, mayBeLost, type Outbox, outbox } from './outbox';

type Waiting = { done: (count: number) => void; failed: (message: string) => void };

export class Hands {
  private state: Outbox = EMPTY;
  private readonly waiting = new Map<string, Waiting>();
  private readonly listeners = new Set<() => void>();
  /** Asks for the list to be brought up to date. */
  look: () => void = () => undefined;
  /** Says what was refused. */
  tell: (message: string) => void = () => undefined;

  constructor(private readonly stackId: number) {}

  /** Does something; resolves with the stack's count once the server did it, and rejects with what it says against it. */
  do(doing: Doing): Promise<number> {
    return this.put({ doing });
  }

  turn(way: 'undo' | 'redo'): Promise<number> {
    return this.put({ turn: way });
  }

  /** The list has come so far. */
  seen(count: number): void {
    this.happen({ kind: 'seen', count });
  }

  /** Somebody closes the page: what has not been sent goes now. */
  leave(): void {
    this.happen({ kind: 'leaving' });
  }

  get busy(): boolean {
    return this.state.jobs.length > 0;
  }

  /** Why changes wait; empty while they do not. */
  get held(): string {
    return this.state.held;
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  snapshot = (): Outbox => this.state;

  private put(what: Job['what']): Promise<number> {
    const key = crypto.randomUUID();
    const promise = new Promise<number>((resolve, reject) => {
      this.waiting.set(key, { done: resolve, failed: (message) => reject(new Refusal(message, 422)) });
    });
    // Refusals are told once, by `tell`; whoever also waits for them may.
    promise.catch(() => undefined);
    this.happen({ kind: 'put', job: { key, what } });
    return promise;
  }

  private happen(happened: Happening): void {
    const [state, instructions] = outbox(this.state, happened);
    const changed = state !== this.state;
    this.state = state;
    for (const one of instructions) {
      if (one.do === 'send') void this.send(one.job);
      else if (one.do === 'send last') for (const job of one.jobs) void this.sendLast(job);
      else if (one.do === 'wait') setTimeout(() => this.happen({ kind: 'waited' }), one.ms);
      else if (one.do === 'look') this.look();
      else if (one.do === 'done') this.settle(one.key)?.done(one.count);
      else {
        this.tell(one.message);
        this.settle(one.key)?.failed(one.message);
      }
    }
    if (changed) for (const listener of this.listeners) listener();
  }

  private settle(key: string): Waiting | undefined {
    const found = this.waiting.get(key);
    this.waiting.delete(key);
    return found;
  }

  private async send(job: Job): Promise<void> {
    try {
      const { count } = await this.made(job);
      this.happen({ kind: 'answered', key: job.key, count });
    } catch (error) {
      const refusal = error instanceof Refusal ? error : new Refusal('That could not be done: try again.', 422);
      this.happen({ kind: 'refused', key: job.key, message: refusal.message, passing: refusal.passing });
    }
  }

  /** In one request each, so that it is on its way whatever becomes of the page that asks. */
  private made({ key, what }: Job): Promise<{ count: number }> {
    return 'doing' in what
      ? change(this.stackId, this.state.seen, key, what.doing)
      : turn(this.stackId, what.turn, key);
  }

  private async sendLast(job: Job): Promise<void> {
    try {
      await this.made(job);
    } catch {
      // Nobody is there to be told any more.
    }
  }
}

const all = new Map<number, Hands>();

export function handsOf(stackId: number): Hands {
  const there = all.get(stackId);
  if (there) return there;
  const made = new Hands(stackId);
  all.set(stackId, made);
  return made;
}

/** Whether anything may be lost with the page, in any stack. */
export const anyMayBeLost = (): boolean => [...all.values()].some((hands) => mayBeLost(hands.snapshot()));

/** Whoever closes the page leaves it saved. */
export function leaveAll(): void {
  for (const hands of all.values()) hands.leave();
}
