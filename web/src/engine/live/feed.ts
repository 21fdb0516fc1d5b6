/** Keeps the pages of a stack up to date in the cache of answers: does what `live` decides, with a real clock and line. */

import type { QueryClient } from '@tanstack/react-query';
import { api, told } from '@/api/client';
import type { Pages } from '@/api/types';
import { type Happening, type Live, live, START } from './live';
import { merged } from './merged';

type Event = Happening extends infer Each ? (Each extends { at: number } ? Omit<Each, 'at'> : never) : never;
/** What is told of a stack besides its pages, and is asked for anew when these have moved on. */
const BESIDE = new Set(['stack', 'documents', 'history', 'checks', 'watch', 'expected']);
const BESIDE_MS = 1500;

export const pagesKey = (stackId: number) => ['pages', stackId] as const;

export class StackFeed {
  private state: Live = START;
  private source: EventSource | undefined;
  private besideAt = Number.NEGATIVE_INFINITY;
  private besideWaits = false;
  private hurried = false;
  private readonly timers = new Set<ReturnType<typeof setTimeout>>();
  private readonly listeners = new Set<() => void>();
  /** Told whenever the list has come so far. */
  onCount: (count: number) => void = () => undefined;

  constructor(
    private readonly client: QueryClient,
    private readonly stackId: number,
  ) {}

  open(): void {
    this.connect();
    const known = this.client.getQueryData<Pages>(pagesKey(this.stackId));
    this.state = { ...this.state, known: known?.change ?? 0 };
    this.happen({ kind: 'look' });
  }

  close(): void {
    this.source?.close();
    this.source = undefined;
    for (const timer of this.timers) clearTimeout(timer);
    this.timers.clear();
    this.besideWaits = false;
    this.state = { ...START, known: this.state.known };
  }

  /** Hands have done something, or wait to see it. */
  look(): void {
    this.hurried = true;
    this.happen({ kind: 'look' });
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** The line to the server: undefined while it stands, else when it is tried again. */
  lost = (): number | undefined => (this.state.line === 'lost' ? this.state.tryAt : undefined);

  private happen(event: Event): void {
    const before = this.lost();
    const [state, instructions] = live(this.state, { ...event, at: performance.now() } as Happening);
    this.state = state;
    for (const one of instructions) {
      if (one.do === 'ask') void this.ask();
      else if (one.do === 'wait') this.later(one.ms, () => this.happen({ kind: 'waited' }));
      else this.later(one.ms, () => this.connect());
    }
    if (this.lost() !== before) for (const listener of this.listeners) listener();
  }

  private later(ms: number, then: () => void): void {
    const timer = setTimeout(() => {
      this.timers.delete(timer);
      then();
    }, ms);
    this.timers.add(timer);
  }

  private async ask(): Promise<void> {
    const { client, stackId } = this;
    const source = this.source;
    try {
      const pages = await client.fetchQuery(pagesQuery(client, stackId));
      this.onCount(pages.change);
      if (this.source !== source) return;
      this.happen({ kind: 'came', count: pages.change });
      this.tellBeside();
    } catch {
      // The query keeps the refusal, and the view shows it where nothing was known yet.
      if (this.source === source) this.happen({ kind: 'failed' });
    }
  }

  /** What is told besides is asked for anew, not more often than anybody would read it; hands see theirs at once. */
  private tellBeside(): void {
    const wait = this.hurried ? 0 : this.besideAt + BESIDE_MS - performance.now();
    if (wait > 0) {
      if (this.besideWaits) return;
      this.besideWaits = true;
      this.later(wait, () => {
        // A timer may be a little early: it is set once more then.
        this.besideWaits = false;
        this.tellBeside();
      });
      return;
    }
    this.hurried = false;
    this.besideAt = performance.now();
    const { client, stackId } = this;
    client.invalidateQueries({ predicate: ({ queryKey: [what, of] }) => of === stackId && BESIDE.has(String(what)) });
  }

  private connect(): void {
    this.source?.close();
    const source = new EventSource(`/api/v1/stacks/${this.stackId}/events`);
    this.source = source;
    source.onopen = () => this.happen({ kind: 'opened' });
    source.onmessage = (event) => this.happen({ kind: 'told', count: Number(event.data) });
    // It is tried again here, and not by the browser, which gives up where a server in between answers for it.
    source.onerror = () => {
      source.close();
      this.happen({ kind: 'dropped' });
    };
  }
}

/** The pages of a stack, and what changed since they were asked for last laid over them. */
export const pagesQuery = (client: QueryClient, stackId: number) => ({
  queryKey: pagesKey(stackId),
  queryFn: async ({ signal }: { signal: AbortSignal }) => {
    const known = client.getQueryData<Pages>(pagesKey(stackId));
    const params = { path: { stack_id: stackId }, query: { since: known?.change ?? 0 } };
    return merged(known, await told(api.GET('/api/v1/stacks/{stack_id}/pages', { params, signal })));
  },
});
