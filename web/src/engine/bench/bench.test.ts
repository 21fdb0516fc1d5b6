import { describe, expect, it } from 'vitest';
import type { PageRow } from '@/api/types';
import { inverse, mapped } from '@/engine/geometry/projective';
import {
  asCaptured,
  closer,
  type Lie,
  overlaid,
  pageToScreen,
  panned,
  seen,
  wholeImage,
  wholePage,
} from '@/engine/zoom/view';
import { nothingOf } from './corrections';
import { partsOf, reach } from './scopes';

const lie: Lie = {
  quad: [
    [120, 60],
    [1120, 80],
    [1090, 1480],
    [90, 1460],
  ],
  size: [1000, 1400],
  turn: 0,
  captured: [1200, 1600],
};
const pane = [500, 600] as const;

describe('the view of a page', () => {
  it.each([0, 90, 180, 270] as const)('shows the whole image, turned by %i', (turn) => {
    const map = asCaptured(wholeImage({ ...lie, turn }, pane), pane, { ...lie, turn });
    for (const corner of [
      [0, 0],
      [1200, 0],
      [1200, 1600],
      [0, 1600],
    ] as const) {
      const [x, y] = mapped(map, corner);
      expect(x).toBeGreaterThanOrEqual(17);
      expect(x).toBeLessThanOrEqual(483);
      expect(y).toBeGreaterThanOrEqual(17);
      expect(y).toBeLessThanOrEqual(583);
    }
  });

  it('lays the original exactly as the corrected page', () => {
    const view = wholePage(lie, pane);
    const corner = mapped(overlaid(view, pane, lie), lie.quad[2]);
    const same = mapped(pageToScreen(view, pane, lie), [1000, 1400]);
    expect(corner[0]).toBeCloseTo(same[0], 6);
    expect(corner[1]).toBeCloseTo(same[1], 6);
  });

  it('comes closer to the place under the pointer', () => {
    const view = wholeImage(lie, pane);
    const before = mapped(inverse(asCaptured(view, pane, lie)), [100, 150]);
    const near = closer(view, 3, asCaptured(view, pane, lie), [100, 150]);
    const after = mapped(inverse(asCaptured(near, pane, lie)), [100, 150]);
    expect(near.scale).toBeCloseTo(3 * view.scale);
    expect(after[0]).toBeCloseTo(before[0], 6);
    expect(after[1]).toBeCloseTo(before[1], 6);
  });

  it('moves with the hand, whatever way up the page is', () => {
    const upside = { ...lie, turn: 180 } as const;
    const view = wholeImage(upside, pane);
    const before = asCaptured(view, pane, upside);
    const moved = asCaptured(panned(view, before, pane, 30, -20), pane, upside);
    const [x, y] = mapped(moved, mapped(inverse(before), [200, 200]));
    expect(x).toBeCloseTo(230, 6);
    expect(y).toBeCloseTo(180, 6);
  });

  it('knows what of an image is seen', () => {
    const near = asCaptured({ x: 600, y: 800, scale: 2 }, pane, lie);
    expect(seen(near, pane, lie.captured)).toEqual([475, 650, 250, 300]);
    expect(seen(asCaptured({ x: 9000, y: 9000, scale: 2 }, pane, lie), pane, lie.captured)).toBeUndefined();
  });
});

const row = (number: number, more: Partial<PageRow> = {}) =>
  ({ id: number, number, original: 'key', original_px: [100, 200], origin: 'platen', own: [], ...more }) as PageRow;
const pages = [
  row(1),
  row(2, { own: ['adjust'] }),
  row(3, { origin: 'feeder' }),
  row(4, { original_px: [300, 200] }),
  row(5, { original: null }),
];
const numbers = (found: { pages: PageRow[] }) => found.pages.map(({ number }) => number);

describe('where a correction can be used', () => {
  const page = pages[0] as PageRow;
  const none = new Set<number>();

  it('is counted by side, source, size and choice, without the page itself', () => {
    expect(numbers(reach('versos', page, pages, none, ['tone']))).toEqual([2, 4]);
    expect(numbers(reach('rectos', page, pages, none, ['tone']))).toEqual([3]);
    expect(numbers(reach('source', page, pages, none, ['tone']))).toEqual([2, 4]);
    expect(numbers(reach('size', page, pages, none, ['tone']))).toEqual([2, 3]);
    expect(numbers(reach('chosen', page, pages, new Set([1, 3]), ['tone']))).toEqual([3]);
    expect(numbers(reach('stack', page, pages, none, ['tone']))).toEqual([2, 3, 4]);
  });

  it('names pages that have it by hand, and no others', () => {
    expect(reach('stack', page, pages, none, ['tone']).own.map(({ number }) => number)).toEqual([2]);
    expect(reach('stack', page, pages, none, ['skew']).own).toEqual([]);
  });

  it('passes over images of another size where it is a place in the image', () => {
    const found = reach('stack', page, pages, none, ['corners']);
    expect(numbers(found)).toEqual([2, 3]);
    expect(found.others).toBe(1);
  });

  it('groups fields as hands think of them', () => {
    expect(partsOf(['plain', 'even_tone', 'skew'])).toEqual(['skew', 'borders', 'tone']);
  });
});

it('Back to the treatment takes back what is set, and nothing else', () => {
  expect(nothingOf({ skew: 0.3, crop: false, quad: null })).toEqual({ skew: null, crop: null });
  expect(nothingOf({ skew: null })).toBeUndefined();
});
