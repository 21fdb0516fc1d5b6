import { describe, expect, it } from 'vitest';
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
