import { describe, expect, it } from 'vitest';
import { extended, kept, NOTHING, only, these, toggled } from '@/engine/selection/selection';
import { GAP, gapAt, gapPlace, gridFor, placeOf, rowCount, touched } from './layout';

describe('the grid', () => {
  it.each(['small', 'medium', 'large'] as const)('of %s cells keeps to its room', (size) => {
    for (const layout of ['pages', 'leaves', 'facing'] as const) {
      const grid = gridFor(900, size, layout, true);
      const last = placeOf(grid, grid.columns - 1 - grid.offset);
      expect(last.left + grid.width).toBeLessThanOrEqual(900 - 32);
      expect(last.top).toBe(0);
    }
  });

  it('shows a first single page on the right, versos left and rectos right after it', () => {
    const grid = gridFor(700, 'medium', 'facing', true);
    expect(grid.columns).toBe(4);
    expect(placeOf(grid, 0).left).toBeGreaterThan(grid.width - 1);
    expect(placeOf(grid, 2).left - placeOf(grid, 1).left).toBe(grid.width + 2);
    expect(rowCount(grid, 4)).toBe(2);
  });

  it('finds the gap nearest to a point, and draws it beside the page before', () => {
    const grid = gridFor(900, 'medium', 'pages', false);
    expect(gapAt(grid, 7, 0, 0)).toBe(0);
    expect(gapAt(grid, 7, grid.width * 0.8, 10)).toBe(1);
    expect(gapAt(grid, 7, 5000, 10)).toBe(grid.columns);
    expect(gapAt(grid, 7, 5000, 9999)).toBe(7);
    expect(gapPlace(grid, 7, 1).left).toBe(grid.width + GAP / 2);
  });

  it('finds the pages that a rectangle touches, wherever they are scrolled to', () => {
    const grid = gridFor(900, 'medium', 'pages', false);
    const wide = { left: 0, right: 5000 };
    expect(touched(grid, 2000, { ...wide, top: 0, bottom: 10 })).toHaveLength(grid.columns);
    const deep = touched(grid, 2000, { ...wide, top: 252 * 100, bottom: 252 * 101 + 5 });
    expect(deep[0]).toBe(grid.columns * 100);
    expect(deep).toHaveLength(2 * grid.columns);
  });
});

describe('choosing pages', () => {
  const order = [11, 12, 13, 14, 15];
  const ids = (selection: { ids: ReadonlySet<number> }) => [...selection.ids];

  it('with Shift takes the run from where it began, both ways', () => {
    const start = only(13);
    expect(ids(extended(start, order, 15))).toEqual([13, 14, 15]);
    expect(ids(extended(extended(start, order, 15), order, 12))).toEqual([12, 13]);
  });

  it('one by one never ends with none', () => {
    const two = toggled(only(11), 14);
    expect(ids(two)).toEqual([11, 14]);
    expect(ids(toggled(two, 11))).toEqual([14]);
    expect(ids(toggled(only(11), 11))).toEqual([11]);
  });

  it('outlives pages that come and go', () => {
    const some = these([12, 13]);
    expect(kept(some, [11, 12, 13, 99], order)).toBe(some);
    expect(ids(kept(some, [11, 13, 14], order))).toEqual([13]);
    expect(kept(only(15), [11, 12], order).current).toBe(12);
    expect(kept(only(15), [], order)).toBe(NOTHING);
  });
});
