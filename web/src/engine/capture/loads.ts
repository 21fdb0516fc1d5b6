/** Which capture is looked at, and whether fronts and backs wait to be brought together. Decides only. */

import type { PageRow, Run } from '@/api/types';
import { halves, inOrder, type Pair } from './halves';

export type Loads = {
  /** The newest run that was over when the list was first seen: it is history, not news. Undefined until then. */
  past: number | undefined;
  /** The run that was looked at and left. */
  left: number | undefined;
  /** Somebody asked to bring fronts and backs together. */
  asked: boolean;
  /** Sheets of a run, by 0-based place, that were marked just now as having no back; else it is as kept with the run. */
  single: { run: number; sheets: ReadonlySet<number> } | undefined;
};

export const NO_LOADS: Loads = { past: undefined, left: undefined, asked: false, single: undefined };

export type Happening =
  | { kind: 'listed'; runs: readonly Run[] }
  | { kind: 'begin' }
  | { kind: 'leave'; run: number | undefined }
  | { kind: 'weave' }
  | { kind: 'single'; run: number; sheets: ReadonlySet<number> };

const OPEN = new Set<Run['state']>(['wanted', 'running', 'pausing', 'finishing', 'cancelling']);
export const isOpen = (run: Run | undefined) => run !== undefined && OPEN.has(run.state);
const isOver = (run: Run) => run.state === 'done' || run.state === 'cancelled';

export function loading(state: Loads, happened: Happening): Loads {
  switch (happened.kind) {
    case 'listed':
      if (state.past !== undefined) return state;
      return { ...state, past: Math.max(0, ...happened.runs.filter(isOver).map(({ id }) => id)) };
    case 'begin':
      return {
        ...state,
        left: undefined,
        asked: false,
      };
    case 'leave':
      return { ...state, left: happened.run, asked: false };
    case 'weave':
      return { ...state, asked: true };
    case 'single':
      return { ...state, single: { run: happened.run, sheets: happened.sheets } };
  }
}

export type Seen = {
  /** What is looked at: a capture under way, one that stopped, or one that has just come to its end. */
  run: Run | undefined;
  pair: Pair | undefined;
  /** Fronts and backs are in, and do not stand among each other. */
  unwoven: boolean;
  weaving: boolean;
  /** Sheets, by 0-based place, that have no back. */
  single: ReadonlySet<number>;
  /** How many backs are still to come. */
  left: number;
};

/** What there is to see of the captures of a stack, the newest first, at a station. */
export function seen(state: Loads, runs: readonly Run[], station: number | undefined, pages: readonly PageRow[]): Seen {
  const [latest] = runs;
  const pair = halves(runs);
  const news =
    latest !== undefined &&
    state.past !== undefined &&
    latest.id > state.past &&
    latest.id !== state.left &&
    (latest.station === station || latest.binds_as !== '');
  const run = latest && (isOpen(latest) || latest.state === 'stopped' || news) ? latest : undefined;
  const unwoven = pair?.backs !== undefined && !inOrder(pair, pages);
  const weaving = unwoven && (state.asked || run?.id === pair?.backs?.id) && pair?.backs?.state === 'done';
  const marked = state.single?.run === pair?.fronts.id ? state.single?.sheets : undefined;
  const single = marked ?? new Set(pair?.fronts.single);
  const left = pair && !pair.backs && isThere(pair.fronts, pages) ? pair.fronts.received - single.size : 0;
  return { run, pair, unwoven, weaving, single, left };
}

/** Whether any page of a load is still in the stack: of one that was undone or discarded nothing is waited for. */
function isThere({ files }: Run, pages: readonly PageRow[]): boolean {
  const ids = new Set(pages.map(({ id }) => id));
  return files.some(({ page }) => page !== null && ids.has(page));
}
