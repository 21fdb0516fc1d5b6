/** The pointer in the grid: choosing, a rectangle drawn over empty ground, and pages dragged to another place. Decides only. */

import type { Happening as Choosing, Selection } from '@/engine/selection/selection';
import { type Grid, gapAt, type Rect, touched } from './layout';

/** In pixels of the list, whatever is scrolled. */
export type Point = { x: number; y: number };
type Press = Point & {
  id: number | undefined;
  /** Whether it was decided at once what is chosen: else it may be that several are about to be dragged. */
  settled: boolean;
  /** Pages that stay chosen beside those of the rectangle. */
  base: readonly number[];
};
export type Handling = { press: Press | undefined; doing: 'nothing' | 'band' | 'move'; to: Point };
export const IDLE: Handling = { press: undefined, doing: 'nothing', to: { x: 0, y: 0 } };

export type World = { grid: Grid; shown: readonly number[]; selection: Selection };
export type Event =
  | { kind: 'press'; at: Point; id: number | undefined; shift: boolean; many: boolean }
  | { kind: 'move'; at: Point }
  | { kind: 'release' }
  | { kind: 'cancel' };
export type Outcome = { do: 'choose'; happening: Choosing } | { do: 'move'; gap: number };

/** A hand that trembles does not drag. */
const SLACK = 5;

export function handling(state: Handling, event: Event, world: World): [Handling, Outcome[]] {
  switch (event.kind) {
    case 'press':
      return pressed(event, world);
    case 'move': {
      const { press } = state;
      if (!press) return [state, []];
      const { at } = event;
      const still = state.doing === 'nothing' && Math.hypot(at.x - press.x, at.y - press.y) < SLACK;
      if (still) return [state, []];
      if (press.id !== undefined) return [{ ...state, doing: 'move', to: at }, []];
      const after: Handling = { ...state, doing: 'band', to: at };
      return [after, chosenBy(after, press, world)];
    }
    case 'release': {
      const { press, doing, to } = state;
      if (doing === 'move') return [IDLE, [{ do: 'move', gap: gapOf(to, world) }]];
      if (press && doing === 'nothing' && press.id !== undefined && !press.settled)
        return [IDLE, [choose({ kind: 'only', id: press.id })]];
      return [IDLE, []];
    }
    case 'cancel':
      return [IDLE, []];
  }
}

const choose = (happening: Choosing): Outcome => ({ do: 'choose', happening });

function pressed(event: Event & { kind: 'press' }, { selection }: World): [Handling, Outcome[]] {
  const { at, id, shift, many } = event;
  const base = many ? [...selection.ids] : [];
  const press = (settled: boolean): Handling => ({ press: { ...at, id, settled, base }, doing: 'nothing', to: at });
  if (id === undefined) return [press(true), []];
  if (shift) return [press(true), [choose({ kind: 'extend', id })]];
  if (many) return [press(true), [choose({ kind: 'toggle', id })]];
  if (!selection.ids.has(id)) return [press(true), [choose({ kind: 'only', id })]];
  return [press(false), []];
}

function chosenBy(state: Handling, { base }: Press, { grid, shown }: World): Outcome[] {
  const rect = bandOf(state);
  if (!rect) return [];
  const hit = touched(grid, shown.length, rect).flatMap((index) => shown[index] ?? []);
  const ids = [...new Set([...base, ...hit])];
  return ids.length ? [choose({ kind: 'these', ids, current: hit.at(-1) })] : [];
}

/** The rectangle that is being drawn. */
export function bandOf({ press, doing, to }: Handling): Rect | undefined {
  if (!press || doing !== 'band') return undefined;
  return {
    left: Math.min(press.x, to.x),
    right: Math.max(press.x, to.x),
    top: Math.min(press.y, to.y),
    bottom: Math.max(press.y, to.y),
  };
}

/** The gap to which pages would be moved. */
export const gapOf = (to: Point, { grid, shown }: World): number => gapAt(grid, shown.length, to.x, to.y);
