/**
 * The doubtful words that wait for somebody, worst first: which one is in hand, which have been decided, when more are to be
 * fetched. Decides only; a hook fetches.
 */

import type { Box, Doubt } from '@/api/types';

export type Queue = {
  rows: readonly Doubt[];
  /** Place of the word in hand among the rows; behind the last where there is none left. */
  at: number;
  /** What was decided here and may still come from the server. */
  decided: ReadonlySet<string>;
  /** Whether the server has no more. */
  ended: boolean;
  fetching: boolean;
  /** Counts how often it began anew: an answer to an older question is of no use. */
  round: number;
};

export const NO_QUEUE: Queue = { rows: [], at: 0, decided: new Set(), ended: false, fetching: false, round: 0 };

export type Happening =
  | { kind: 'fetching' }
  | { kind: 'came'; round: number; rows: readonly Doubt[]; most: number }
  | { kind: 'failed'; round: number }
  | { kind: 'decided'; words: readonly Where[] }
  | { kind: 'step'; by: number }
  /** Another scope, or something was undone: all is asked for again. */
  | { kind: 'anew' };

type Where = { page: number; box: Box };

/** Fetched once so few are left in hand. */
const FEW = 15;

export const keyOf = ({ page, box }: Where): string => `${page}:${box.join()}`;

export function queue(state: Queue, happened: Happening): Queue {
  switch (happened.kind) {
    case 'fetching':
      return { ...state, fetching: true };
    case 'came': {
      if (happened.round !== state.round) return state;
      const known = new Set(state.rows.map(keyOf));
      const fresh = happened.rows.filter((row) => !known.has(keyOf(row)) && !state.decided.has(keyOf(row)));
      const ended = happened.rows.length < happened.most;
      return { ...state, rows: [...state.rows, ...fresh], ended, fetching: false };
    }
    case 'failed':
      return happened.round === state.round ? { ...state, fetching: false, ended: true } : state;
    case 'decided': {
      const gone = new Set(happened.words.map(keyOf));
      const before = state.rows.slice(0, state.at).filter((row) => gone.has(keyOf(row))).length;
      return {
        ...state,
        rows: state.rows.filter((row) => !gone.has(keyOf(row))),
        at: state.at - before,
        decided: new Set([...state.decided, ...gone]),
      };
    }
    case 'step': {
      const last = Math.max(0, state.rows.length - 1);
      return { ...state, at: Math.max(0, Math.min(last, state.at + happened.by)) };
    }
    case 'anew':
      return { ...NO_QUEUE, round: state.round + 1 };
  }
}

/** Whether more rows are to be fetched now. */
export const wants = ({ rows, at, ended, fetching }: Queue): boolean => !ended && !fetching && rows.length - at < FEW;

/** The row behind which the server goes on. */
export const lastOf = ({ rows }: Queue): Doubt | undefined => rows.at(-1);
