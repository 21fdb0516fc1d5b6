/**
 * A list that changes often, kept up to date: one question at a time that is never broken off, at a bounded rate, and a line to
 * the server that comes back by itself. Decides only; times are in ms.
 */

export type Live = {
  /** The count of changes that is shown. */
  known: number;
  /** The highest count told since the last question; whether there is another reason to ask. */
  told: number;
  wanted: boolean;
  asking: boolean;
  /** When the last question was asked, and when the next may be. */
  asked: number;
  next: number;
  /** A timer runs. */
  waits: boolean;
  line: 'new' | 'open' | 'lost';
  /** So often the line was tried in vain; when it is tried again. */
  attempt: number;
  tryAt: number;
};

export const START: Live = {
  known: 0,
  told: 0,
  wanted: false,
  asking: false,
  asked: 0,
  next: 0,
  waits: false,
  line: 'new',
  attempt: 0,
  tryAt: 0,
};

export type Happening = { at: number } & (
  | { kind: 'told'; count: number }
  | { kind: 'came'; count: number }
  | { kind: 'failed' }
  /** Hands wait for it: it is not put off. */
  | { kind: 'look' }
  | { kind: 'waited' }
  | { kind: 'opened' }
  | { kind: 'dropped' }
);

export type Instruction = { do: 'ask' } | { do: 'wait'; ms: number } | { do: 'connect'; ms: number };

/** Not more often than so, and never so often that asking is all there is. */
const LEAST_MS = 400;
const AFTER_FAILURE_MS = 2000;
const TRIES = [500, 1000, 2000, 4000, 8000, 15_000];

export function live(state: Live, happened: Happening): [Live, Instruction[]] {
  const { at } = happened;
  switch (happened.kind) {
    case 'told':
      return ask({ ...state, line: 'open', attempt: 0, told: Math.max(state.told, happened.count) }, at);
    case 'look':
      return ask({ ...state, wanted: true, next: 0 }, at);
    case 'came': {
      const next = state.wanted ? 0 : at + Math.max(LEAST_MS, at - state.asked);
      return ask({ ...state, asking: false, known: happened.count, next }, at);
    }
    case 'failed':
      return ask({ ...state, asking: false, wanted: true, next: at + AFTER_FAILURE_MS }, at);
    case 'waited':
      return ask({ ...state, waits: false }, at);
    case 'opened':
      // What was told while nobody listened is unknown.
      return ask({ ...state, line: 'open', attempt: 0, wanted: true }, at);
    case 'dropped': {
      const ms = TRIES[Math.min(state.attempt, TRIES.length - 1)] ?? 0;
      return [{ ...state, line: 'lost', attempt: state.attempt + 1, tryAt: at + ms }, [{ do: 'connect', ms }]];
    }
  }
}

function ask(state: Live, at: number): [Live, Instruction[]] {
  if (state.asking || !(state.wanted || state.told > state.known)) return [state, []];
  if (at >= state.next) return [{ ...state, asking: true, asked: at, wanted: false, told: 0 }, [{ do: 'ask' }]];
  if (state.waits) return [state, []];
  return [{ ...state, waits: true }, [{ do: 'wait', ms: state.next - at }]];
}
