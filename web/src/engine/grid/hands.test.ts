import { describe, expect, it } from 'vitest';
import { NOTHING, type Selection, selecting } from '@/engine/selection/selection';
import { bandOf, type Event, type Handling, handling, IDLE, type Outcome } from './hands';
import { gridFor, placeOf } from './layout';

const SHOWN = [11, 12, 13, 14, 15, 16, 17, 18];
const grid = gridFor(900, 'medium', 'pages', false);
const seen = { shown: SHOWN, all: SHOWN };
const over = (index: number) => {
  const { left, top } = placeOf(grid, index);
  return { x: left + 10, y: top + 10 };
};
const press = (index: number, more: { shift?: boolean; many?: boolean } = {}): Event => ({
  kind: 'press',
  at: over(index),
  id: SHOWN[index],
  shift: false,
  many: false,
  ...more,
});
const ground = (index: number, many = false): Event => ({
  kind: 'press',
  at: over(index),
  id: undefined,
  shift: false,
  many,
});
const move = (index: number): Event => ({ kind: 'move', at: over(index) });
const release: Event = { kind: 'release' };

function having(events: Event[], start: Selection = NOTHING) {
  let state: Handling = IDLE;
  let selection = start;
  const moves: Outcome[] = [];
  for (const event of events) {
    const [next, outcomes] = handling(state, event, { grid, shown: SHOWN, selection });
    state = next;
    for (const one of outcomes) {
      if (one.do === 'choose') selection = selecting(selection, one.happening, seen);
      else moves.push(one);
    }
  }
  return { ids: [...selection.ids], moves, state };
}
const two: Selection = { ids: new Set([11, 12]), current: 11, anchor: 11 };

describe('the pointer in the grid', () => {
  it('chooses a page, a run with Shift, single ones with Ctrl', () => {
    expect(having([press(2), release]).ids).toEqual([13]);
    expect(having([press(1), release, press(3, { shift: true }), release]).ids).toEqual([12, 13, 14]);
    expect(having([press(1), release, press(3, { many: true }), release]).ids).toEqual([12, 14]);
  });

  it('pressed on one of several chooses it when let go, and drags them all when moved', () => {
    expect(having([press(1), release], two).ids).toEqual([12]);
    const { ids, moves } = having([press(1), move(4), release], two);
    expect(ids).toEqual([11, 12]);
    expect(moves).toEqual([{ do: 'move', gap: 4 }]);
  });

  it('that trembles does not drag', () => {
    const { moves } = having([press(1), { kind: 'move', at: { x: over(1).x + 3, y: over(1).y + 3 } }, release], two);
    expect(moves).toEqual([]);
  });

  it('draws a rectangle over empty ground, with Ctrl beside what is chosen', () => {
    expect(having([ground(2), move(4), release]).ids).toEqual([13, 14, 15]);
    expect(having([ground(2, true), move(3), release], two).ids).toEqual([11, 12, 13, 14]);
    expect(bandOf(having([ground(2), move(4)]).state)).toBeDefined();
  });

  it('taken away in the middle of a drag moves nothing', () => {
    expect(having([press(1), move(4), { kind: 'cancel' }, release], two).moves).toEqual([]);
  });

  it('moved without being pressed does nothing', () => {
    expect(having([move(3), release]).ids).toEqual([]);
  });
});
