import { describe, expect, it } from 'vitest';
import { bytes, counted, figure, numbers } from '@/words/figures';
import { distribution } from './Gauge';
import { lineAt, pile } from './pile';

const pages = (of: number) => Array.from({ length: of }, (_, at) => ({ number: at + 1 }));

describe('the fore-edge', () => {
  it.each([
    [700, 20],
    [700, 500],
    [700, 5000],
  ])('in %i px finds each of %i lines at its middle', (height, count) => {
    const { pitch, total } = pile(height, count);
    expect(total).toBeLessThanOrEqual(Math.max(height, count * 0.2) + 1e-6);
    for (const index of [0, Math.floor(count / 2), count - 1])
      expect(lineAt((index + 0.5) * pitch, height, count)).toBe(index);
  });

  it('keeps to its ends', () => {
    expect(lineAt(-5, 700, 10)).toBe(0);
    expect(lineAt(9999, 700, 10)).toBe(9);
  });
});

describe('a distribution', () => {
  it('counts every value in its bin', () => {
    const { bars, low, high } = distribution([0, 0, 1, 10], 10);
    expect(bars).toHaveLength(10);
    expect(Math.max(...bars)).toBe(1);
    expect(low).toBeLessThan(0);
    expect(high).toBeGreaterThan(10);
  });

  it('of equal values, or none, has a scale all the same', () => {
    expect(distribution([5, 5], 4).high).toBeGreaterThan(distribution([5, 5], 4).low);
    expect(distribution([], 4).bars).toEqual([]);
  });
});

describe('figures', () => {
  it.each([
    [figure(-1.397, 2, '°'), '−1.40°'],
    [figure(-0.001, 2, '°'), '0.00°'],
    [figure(297, 1, 'mm'), '297.0\u2009mm'],
    [bytes(999), '999\u2009B'],
    [bytes(20_400), '20\u2009kB'],
    [bytes(2_483_487), '2.5\u2009MB'],
    [counted(1, 'page'), '1 page'],
    [counted(2000, 'page'), '2,000 pages'],
    [numbers([{ number: 3 }]), '3'],
    [numbers(pages(12)), '1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12'],
    [numbers(pages(1013)), '1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12 and 1,001 more'],
  ])('%s', (shown, expected) => expect(shown).toBe(expected));
});
