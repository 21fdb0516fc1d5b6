import { describe, expect, it } from 'vitest';
import type { PagesNews } from '@/api/types';
import { merged } from './merged';

const row = (id: number, state = 'open') => ({ id, state }) as PagesNews['pages'][number];
const news = (change: number, order: number[] | null, ...rows: PagesNews['pages']) =>
  ({ change, order, pages: rows, counts: {}, engine: true }) as unknown as PagesNews;

describe('pages laid over what was known', () => {
  it('keep unchanged rows as they are and put new ones in their place', () => {
    const known = merged(undefined, news(3, [1, 2], row(1), row(2)));
    const result = merged(known, news(5, [1, 3, 2], row(3), row(2, 'ready')));
    expect(result.pages.map(({ id, number }) => [id, number])).toEqual([
      [1, 1],
      [3, 2],
      [2, 3],
    ]);
    expect(result.pages[0]).toBe(known.pages[0]);
    expect(result.change).toBe(5);
  });

  it('move without being told anew, and go when they are in the order no more', () => {
    const known = merged(undefined, news(3, [1, 2, 3], row(1), row(2), row(3)));
    expect(merged(known, news(4, [3, 1])).pages.map(({ id, number }) => [id, number])).toEqual([
      [3, 1],
      [1, 2],
    ]);
  });

  it('are the same list where nothing is new', () => {
    const known = merged(undefined, news(3, [1], row(1)));
    expect(merged(known, news(3, null)).pages).toBe(known.pages);
  });
});
