/** The camera at the table: opened, looked through, released by itself or by hand. Outlives views, as stacks begin with it. */

import type { Eyes } from './eyes';
import type { Answer } from './session';
import { NoCamera, type Source } from './source';

export type Seen = {
  readonly stage: 'closed' | 'opening' | 'open' | 'failed';
  /** Why it failed, as one sentence. */
  readonly why: string;
  readonly source: Source | undefined;
  readonly answer: Answer | undefined;
  /** What is said, once it has been so for a moment: words that flicker are not read. */
  readonly said: Answer['said'] | undefined;
  /** A picture is being taken. */
  readonly taking: boolean;
  /** Pictures since it was opened. */
  readonly taken: number;
  /** Why the last picture was not kept: it is taken again. */
  readonly refused: Answer['said'] | undefined;
  /** Pictures that could not be sent, and why; they stay here until they are. */
  readonly held: number;
  readonly heldFor: string;
};

const CLOSED: Seen = {
  stage: 'closed',
  why: '',
  source: undefined,
  answer: undefined,
  said: undefined,
  taking: false,
  taken: 0,
  refused: undefined,
  held: 0,
  heldFor: '',
};

export type Deps = {
  open: (id: string | undefined) => Promise<Source>;
  eyes: () => Eyes;
  reduced: (picture: Blob) => Promise<ImageBitmap>;
  /** In seconds. */
  now: () => number;
};

/** A picture, with its number among those since the camera was opened. */
export type Shot = { readonly picture: Blob; readonly taken: Date; readonly number: number };
/** What becomes of a picture; rejects where it cannot be sent now. */
export type Keep = (shot: Shot) => Promise<unknown>;

const SETTLED_S = 0.25;
/** A view that comes back within it finds the camera as it was. */
const LINGERS_MS = 1500;
/** Faults of a picture that was released by itself, for which it is taken again: it moved in the meantime. */
const AGAIN = new Set<Answer['said']>(['no page', 'no contrast', 'cut off', 'covered', 'blurred']);

export class Camera {
  private state = CLOSED;
  private readonly listeners = new Set<() => void>();
  private eyes: Eyes | undefined;
  private run = 0;
  private closing: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<unknown> = Promise.resolve();
  /** With what each was to become: whoever sends them again may have gone to another stack. */
  private held: { shot: Shot; keep: Keep }[] = [];
  private pending: { said: Answer['said']; since: number } | undefined;
  /** Whether it releases by itself. */
  automatic = true;
  keep: Keep | undefined;

  constructor(private readonly deps: Deps) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  get = (): Seen => this.state;

  /** Opens it, or finds it open still. */
  async open(id?: string): Promise<void> {
    clearTimeout(this.closing);
    const { stage } = this.state;
    if (id === undefined && (stage === 'open' || stage === 'opening')) return;
    this.shut();
    const run = ++this.run;
    this.set(this.still({ stage: 'opening' }));
    try {
      const source = await this.deps.open(id);
      if (run !== this.run) return source.close();
      this.eyes = this.deps.eyes();
      source.onEnd(() => run === this.run && this.fail('The camera was taken away. Connect it, then open it again.'));
      this.set({ stage: 'open', source });
      void this.watch(run, source);
    } catch (problem) {
      if (run === this.run)
        this.fail(problem instanceof NoCamera ? problem.message : 'The camera could not be opened. Try again.');
    }
  }

  /** Closes it soon: the view may only be on its way to another address. */
  leave(): void {
    clearTimeout(this.closing);
    this.closing = setTimeout(() => {
      this.shut();
      this.run += 1;
      this.set({ ...this.still({}), taken: 0 });
    }, LINGERS_MS);
  }

  /** By hand: whatever is said of it. */
  async release(): Promise<void> {
    if (this.state.stage !== 'open' || this.state.taking) return;
    this.eyes?.take();
    await this.take(false);
  }

  /** Sends what could not be sent. */
  again(): void {
    const { held } = this;
    this.held = [];
    this.set({ held: 0, heldFor: '' });
    for (const { shot, keep } of held) this.send(keep, shot);
  }

  private shut(): void {
    this.state.source?.close();
    this.eyes?.close();
    this.eyes = undefined;
    this.pending = undefined;
  }

  /** Closed, but for what outlives that. */
  private still(change: Partial<Seen>): Seen {
    const { taken, held, heldFor } = this.state;
    return { ...CLOSED, taken, held, heldFor, ...change };
  }

  private fail(why: string): void {
    this.shut();
    this.run += 1;
    this.set(this.still({ stage: 'failed', why }));
  }

  private async watch(run: number, source: Source): Promise<void> {
    while (run === this.run) {
      await source.next();
      if (run !== this.run || !this.eyes) return;
      try {
        const answer = await this.eyes.see(await source.frame(), this.deps.now());
        if (run !== this.run) return;
        if (answer.release && !this.automatic) {
          // Nothing is taken, and nothing is said to be.
          this.eyes.forget();
          this.tell({ ...answer, said: 'steady', release: false });
          continue;
        }
        this.tell(answer);
        if (answer.release) await this.take(true);
      } catch {
        // A frame that cannot be read: the next one is looked at.
      }
    }
  }

  private tell(answer: Answer): void {
    const at = this.deps.now();
    if (this.pending?.said !== answer.said) this.pending = { said: answer.said, since: at };
    const settled = at - this.pending.since >= SETTLED_S || answer.release || this.state.said === undefined;
    const said = settled ? answer.said : this.state.said;
    const refused = said === this.state.said ? this.state.refused : undefined;
    this.set({ answer, said, refused });
  }

  private async take(byItself: boolean): Promise<void> {
    const { source } = this.state;
    const { eyes, keep, run } = this;
    if (!source || !eyes || !keep || this.state.taking) return;
    const taken = new Date();
    this.set({ taking: true });
    try {
      const picture = await source.picture();
      if (byItself) {
        const { said } = await eyes.check(await this.deps.reduced(picture));
        if (AGAIN.has(said)) {
          eyes.forget();
          if (run === this.run) this.set({ refused: said });
          return;
        }
      }
      const number = this.state.taken + 1;
      this.set({ taken: number, said: 'taken', refused: undefined });
      // On its way: the next page may be laid.
      this.send(keep, { picture, taken, number });
    } catch (problem) {
      eyes.forget();
      if (run === this.run)
        this.fail(problem instanceof NoCamera ? problem.message : 'The camera gave no picture. Open it again.');
    } finally {
      this.set({ taking: false });
    }
  }

  /** One after the other, so that pages come in the order in which they were taken. */
  private send(keep: Keep, shot: Shot): void {
    this.sending = this.sending
      .then(() => keep(shot))
      .catch((problem) => {
        this.held.push({ shot, keep });
        this.set({ held: this.held.length, heldFor: problem instanceof Error ? problem.message : '' });
      });
  }

  private set(change: Partial<Seen>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}
