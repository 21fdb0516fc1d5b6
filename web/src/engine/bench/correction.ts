/**
 * What is being set on one page and not saved yet, over what it has. It is saved when hands are still, as one change that can be
 * undone, and stands for itself until the saved page has come, so that nothing jumps and nothing sticks. Decides only.
 */

import type { Correction, Wish } from '@/api/bench';
import type { Doing } from '@/api/types';

/** Sent under a key; `count` is the stack's count of changes once the server did it. */
type Flight = { key: string; wish: Wish; count?: number };

export type Correcting = {
  page: number;
  /** Set since it was last sent. */
  edits: Wish;
  /** In the order in which they were sent. */
  flights: readonly Flight[];
  /** The count of changes at which the page is shown. */
  shown: number;
};

export const untouched = (page: number): Correcting => ({ page, edits: {}, flights: [], shown: -1 });

export type Happening =
  | { kind: 'set'; part: Wish; now?: boolean }
  /** Nothing was set for a while, or somebody leaves; keys for what is sent. */
  | { kind: 'still'; keys: () => string }
  | { kind: 'done'; key: string; count: number }
  | { kind: 'failed'; key: string }
  /** The page as it stood at a count of changes. */
  | { kind: 'shown'; count: number }
  /** Another page is gone to; keys for what is sent of this one. */
  | { kind: 'page'; page: number; keys: () => string };

export type Instruction = { do: 'wait' } | { do: 'flush' } | { do: 'send'; key: string; doing: Doing };

export function correcting(state: Correcting, happened: Happening): [Correcting, Instruction[]] {
  switch (happened.kind) {
    case 'set':
      return [{ ...state, edits: { ...state.edits, ...happened.part } }, [{ do: happened.now ? 'flush' : 'wait' }]];
    case 'still': {
      const { split, ...correction } = state.edits;
      const parts: [Wish, Doing][] = [];
      if (Object.keys(correction).length)
        parts.push([correction, { do: 'correct', pages: [state.page], correction: correction as Correction }]);
      if (split) parts.push([{ split }, { do: 'split', page: state.page, ...split }]);
      const flights = parts.map(([wish, doing]) => ({ key: happened.keys(), wish, doing }));
      return [
        {
          ...state,
          edits: {},
          flights: [...state.flights, ...flights.map(({ key, wish }) => ({ key, wish }))],
        },
        flights.map(({ key, doing }) => ({ do: 'send', key, doing })),
      ];
    }
    case 'done':
      return [
        landed({
          ...state,
          flights: state.flights.map((flight) =>
            flight.key === happened.key ? { ...flight, count: happened.count } : flight,
          ),
        }),
        [],
      ];
    case 'failed':
      // What was refused does not stand: the page shows what it has, and the refusal is told where refusals are.
      return [{ ...state, flights: state.flights.filter(({ key }) => key !== happened.key) }, []];
    case 'page': {
      if (happened.page === state.page) return [state, []];
      const [, instructions] = correcting(state, { kind: 'still', keys: happened.keys });
      return [untouched(happened.page), instructions];
    }
    case 'shown':
      return [landed({ ...state, shown: happened.count }), []];
  }
}

/** Without what the page shows as saved by now. */
function landed(state: Correcting): Correcting {
  const open = state.flights.filter(({ count }) => count === undefined || count > state.shown);
  return { ...state, flights: open };
}

/** What stands over the saved page: the latest of each thing. */
export function wished({ flights, edits }: Correcting): Wish {
  return Object.assign({}, ...flights.map(({ wish }) => wish), edits);
}

/** Whether something is set that the page does not show as saved. */
export const isPending = ({ flights, edits }: Correcting): boolean =>
  flights.length > 0 || Object.keys(edits).length > 0;
