/**
 * What hands do to a stack, on its way to the server: one after the other, each made when the one before it is seen, none
 * lost and none done twice. Decides only: a driver sends, waits and tells. Every job has a key of its own, by which the
 * server knows it when it comes again because an answer was lost.
 */

import type { Doing } from '@/api/types';

export type Job = { key: string; what: { doing: Doing } | { turn: 'undo' | 'redo' } };

export type Outbox = {
  /** In order; the first is in the air, unless the list is still catching up with the one before it. */
  jobs: readonly Job[];
  flying: boolean;
  /** The stack's count of changes that must be seen before the next is sent. */
  awaited: number;
  seen: number;
  attempt: number;
  /** Why the first waits; empty while it does not. */
  held: string;
};

export const EMPTY: Outbox = { jobs: [], flying: false, awaited: 0, seen: 0, attempt: 0, held: '' };

export type Happening =
  | { kind: 'put'; job: Job }
  /** The server did it; the stack's count is that now. */
  | { kind: 'answered'; key: string; count: number }
  /** Passing: the machine or the line is short of something, and the same may be done a moment later. */
  | { kind: 'refused'; key: string; message: string; passing: boolean }
  | { kind: 'seen'; count: number }
  | { kind: 'waited' }
  | { kind: 'leaving' };

export type Instruction =
  | { do: 'send'; job: Job }
  /** Whoever leaves hears no answer: all of it goes now. */
  | { do: 'send last'; jobs: readonly Job[] }
  | { do: 'wait'; ms: number }
  | { do: 'look' }
  | { do: 'done'; key: string; count: number }
  | { do: 'failed'; key: string; message: string };

/**
 * Whether something may be lost with the page: what waits behind what is in the air is sent as somebody leaves, and hears of
 * no refusal; what was put off once may be put off again, also while it is in the air anew.
 */
export const mayBeLost = ({ jobs, flying, held }: Outbox): boolean => held !== '' || jobs.length > (flying ? 1 : 0);

const WAITS = [500, 1000, 2000, 4000, 8000, 15_000];

export function outbox(state: Outbox, happened: Happening): [Outbox, Instruction[]] {
  const [first] = state.jobs;
  switch (happened.kind) {
    case 'put':
      return next({ ...state, jobs: [...state.jobs, happened.job] });
    case 'answered': {
      if (first?.key !== happened.key || !state.flying) return [state, []];
      const rest = { ...state, jobs: state.jobs.slice(1), flying: false, attempt: 0, held: '' };
      const [after, more] = next({ ...rest, awaited: happened.count });
      const look: Instruction[] = state.seen < happened.count ? [{ do: 'look' }] : [];
      return [after, [{ do: 'done', key: happened.key, count: happened.count }, ...look, ...more]];
    }
    case 'refused': {
      if (first?.key !== happened.key || !state.flying) return [state, []];
      if (happened.passing) {
        const ms = WAITS[Math.min(state.attempt, WAITS.length - 1)] ?? 0;
        return [{ ...state, flying: false, attempt: state.attempt + 1, held: happened.message }, [{ do: 'wait', ms }]];
      }
      const [after, more] = next({ ...state, jobs: state.jobs.slice(1), flying: false, attempt: 0, held: '' });
      // Somebody else may have been quicker: whoever goes on should see that.
      return [after, [{ do: 'failed', key: happened.key, message: happened.message }, { do: 'look' }, ...more]];
    }
    case 'waited':
      return state.held && first ? [{ ...state, flying: true }, [{ do: 'send', job: first }]] : [state, []];
    case 'seen':
      return next({ ...state, seen: Math.max(state.seen, happened.count) });
    case 'leaving': {
      // What is in the air is there in a moment; what waits would never go.
      const jobs = state.flying ? state.jobs.slice(1) : state.jobs;
      const left = state.flying ? state.jobs.slice(0, 1) : [];
      return jobs.length ? [{ ...state, jobs: left, held: '' }, [{ do: 'send last', jobs }]] : [state, []];
    }
  }
}

function next(state: Outbox): [Outbox, Instruction[]] {
  const [first] = state.jobs;
  if (!first || state.flying || state.held || state.seen < state.awaited) return [state, []];
  return [{ ...state, flying: true }, [{ do: 'send', job: first }]];
}
