import { describe, expect, it } from 'vitest';
import type { SearchAnswer } from '@/api/types';
import { foundWords } from '@/words/search';
import { addressOf, askedIn, filtersOf, yearIn } from './asked';
import { cropOf } from './crop';
import { FEW, hitsOf } from './hits';

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

describe('what is found', () => {
  const answer = (things: number, pages: number, all = things) =>
    ({
      things: Array.from({ length: things }, (_, at) => ({ kind: 'stack', stack: at + 1, document: null, page: null })),
      things_count: all,
      pages: Array.from({ length: pages }, (_, at) => ({ page: at + 1, stack: 7, line: at ? null : { words: [] } })),
      count: pages,
      more: false,
      find: 'oil lamp',
    }) as unknown as SearchAnswer;
  const ids = (...asked: Parameters<typeof hitsOf>) => hitsOf(...asked).things.map(({ id }) => id);

  it('leads with a few things, so that pages are seen at once; the others are one step away', () => {
    expect(ids([answer(FEW + 1, 1)], false)).toHaveLength(FEW + 1);
    expect(ids([answer(FEW + 2, 1)], false)).toEqual(['stack 1', 'stack 2', 'stack 3', 'stack 4', 'rest']);
    expect(hitsOf([answer(FEW + 2, 1)], false).things.at(-1)).toEqual({ id: 'rest', rest: 2 });
    expect(ids([answer(FEW + 2, 1)], true)).toHaveLength(FEW + 2);
  });

  it('shows all things where there are no pages to be seen', () => {
    expect(ids([answer(FEW + 2, 0)], false)).toHaveLength(FEW + 2);
    expect(hitsOf([], false)).toEqual({ things: [], pages: [] });
  });

  it('leads to the line of a page where one answers, and to the page where only its file does', () => {
    const { pages } = hitsOf([answer(0, 2)], false);
    expect(pages.map((hit) => 'href' in hit && hit.href)).toEqual([
      '/stacks/7/text/1?find=oil%20lamp',
      '/stacks/7/pages/2',
    ]);
  });

  it('is told in whole, also where only the first are there', () => {
    expect(foundWords(answer(24, 79))).toBe('24 by name or description, 79 pages');
    expect(foundWords(answer(50, 1, 1700))).toBe('1,700 by name or description (the first 50 here), 1 page');
    expect(foundWords(answer(0, 0))).toBe('Nothing holds that');
  });
});
