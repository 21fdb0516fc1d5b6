import { describe, expect, it } from 'vitest';
import type { PageRow } from '@/api/types';
import { type Filter, filtered } from './Filters';

const WHOLE: [number, number][] = [
  [0, 0],
  [1000, 0],
  [1000, 1400],
  [0, 1400],
];
const row = (id: number, more: Partial<PageRow> = {}) =>
  ({
    id,
    number: id,
    state: 'ready',
    verdict: 'pass',
    rescan: '',
    trouble: null,
    turn: 0,
    printed: '',
    outline: WHOLE,
    original_px: [1000, 1400],
    ...more,
  }) as PageRow;

const shown = (pages: PageRow[], filter: Filter, starts: number[] = []) =>
  filtered(pages, filter, new Set(starts)).map(({ id }) => id);

describe('a sheet', () => {
  it('of turned pages has those that were turned', () => {
    expect(shown([row(1), row(2, { turn: 90 }), row(3, { turn: null }), row(4, { turn: 180 })], 'turned')).toEqual([
      2, 4,
    ]);
  });

  it('of cropped pages has those of which something was cut away', () => {
    const inset = WHOLE.map(([x, y]) => [x * 0.96 + 20, y * 0.96 + 28] as [number, number]);
    const hair = WHOLE.map(([x, y]) => [x * 0.998 + 1, y * 0.998 + 1] as [number, number]);
    const pages = [row(1), row(2, { outline: inset }), row(3, { outline: hair }), row(4, { outline: null })];
    expect(shown(pages, 'cropped')).toEqual([2]);
  });

  it('of page numbers has those that bear one', () => {
    expect(shown([row(1, { printed: '17' }), row(2), row(3, { printed: 'xii' })], 'numbered')).toEqual([1, 3]);
  });

  it('of first pages has the first of each document', () => {
    expect(shown([row(1), row(2), row(3), row(4)], 'covers', [3])).toEqual([1, 3]);
  });

  it('has no page that failed', () => {
    const failed = { state: 'failed', turn: 90, outline: [[50, 50]] } as Partial<PageRow>;
    expect(shown([row(1, failed)], 'turned')).toEqual([]);
    expect(shown([row(1, failed)], 'cropped')).toEqual([]);
  });
});
