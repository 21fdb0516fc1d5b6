import { describe, expect, it } from 'vitest';
import { addressOf, askedIn, filtersOf, yearIn } from './asked';
import { cropOf } from './crop';

const PLAIN = {
  q: 'lamp',
  forgiving: false,
  kind: 'everything',
  at: 'everything',
  collection: null,
  station: '',
  first: 0,
  last: 0,
} as const;

describe('a question in the address', () => {
  it.each([
    ['q=lamp', PLAIN],
    ['', { ...PLAIN, q: '' }],
    ['q=%22oil+lamp%22&forgiving', { ...PLAIN, q: '"oil lamp"', forgiving: true }],
    [
      'q=lamp&kind=pages&at=bound&station=Glass+1&from=1921&to=1930',
      { ...PLAIN, kind: 'pages', at: 'bound', station: 'Glass 1', first: 1921, last: 1930 },
    ],
    ['q=lamp&kind=nonsense&at=7&from=12', PLAIN],
  ])('%s', (search, asked) => {
    expect(askedIn(search)).toEqual(asked);
    expect(askedIn(addressOf(askedIn(search)).split('?')[1] ?? '')).toEqual(asked);
  });

  it('counts its filters', () => {
    expect(filtersOf(PLAIN)).toBe(0);
    expect(filtersOf({ ...PLAIN, kind: 'pages', first: 1921, last: 1921 })).toBe(3);
  });

  it.each([
    ['1921', 1921],
    [' 2099 ', 2099],
    ['1000', 1000],
    ['999', 0],
    ['2100', 0],
    ['192X', 0],
    ['', 0],
  ])('takes “%s” for the year %i', (typed, year) => {
    expect(yearIn(typed)).toBe(year);
  });
});

describe('the part of a page that shows a line', () => {
  it('is the line with some room around it', () => {
    expect(cropOf([100, 200, 500, 240], [], [1000, 1400])).toEqual([86, 186, 914, 68]);
  });

  it('stays on the page', () => {
    const [x, y, wide, high] = cropOf([0, 0, 1000, 40], [], [1000, 30]);
    expect([x, y, high]).toEqual([0, 0, 30]);
    expect(x + wide).toBeLessThanOrEqual(1000);
  });

  it('is around the first word meant where the line is long', () => {
    const line = [0, 200, 4000, 240] as const;
    expect(cropOf([...line], [[2000, 200, 2100, 240]], [4000, 1400])[0]).toBe(Math.round(2000 - (15 * 68) / 3));
    expect(cropOf([...line], [[3990, 200, 4000, 240]], [4000, 1400])[0]).toBe(4000 - 15 * 68);
    expect(cropOf([...line], [[10, 200, 40, 240]], [4000, 1400])[0]).toBe(0);
  });
});
