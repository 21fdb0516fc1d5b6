import { describe, expect, it } from 'vitest';
import type { InspectFinding, PageRow } from '@/api/types';
import { around, byTitle, keyOf, placeIn, undecided, waiting } from './queue';

const finding = (page: number | null, more: Partial<InspectFinding> = {}): InspectFinding => ({
  page,
  kind: 'streak',
  judged: 'a',
  title: 'A streak runs through the image',
  message: '',
  verdict: 'review',
  value: null,
  limit: null,
  spot: null,
  clean_spot: null,
  remedy: 'recapture',
  tool: '',
  together: false,
  fine: null,
  ...more,
});
const row = (id: number, number: number, more: Partial<PageRow> = {}) =>
  ({ id, number, rescan: '', aside: '', ...more }) as PageRow;

describe('what was decided just now', () => {
  const queue = waiting([finding(1), finding(2)], [row(1, 1), row(2, 2)]);
  const [first] = queue;
  if (!first) throw new Error('one waits');
  const left = (until: number, change: number) =>
    undecided(queue, new Map([[keyOf(first.finding), until]]), change).map(({ finding: { page } }) => page);

  it('waits no more while it is not known when findings show it', () => {
    expect(left(Number.POSITIVE_INFINITY, 7)).toEqual([2]);
  });

  it('waits no more until the findings know that change, and is theirs to tell from then on', () => {
    expect(left(8, 7)).toEqual([2]);
    expect(left(8, 8)).toEqual([1, 2]);
  });

  it('waits again where it was refused', () => {
    expect(left(0, 7)).toEqual([1, 2]);
  });
});

describe('what waits', () => {
  it('is in the order of the pages, and the stack comes first', () => {
    const found = waiting([finding(7), finding(3), finding(null)], [row(3, 2), row(7, 1)]);
    expect(found.map(({ finding: { page } }) => page)).toEqual([null, 7, 3]);
  });

  it('is not what somebody found fine, what is captured again, nor what is held aside', () => {
    const fine = { by: 'keeper', at: '' };
    const pages = [row(1, 1), row(2, 2, { rescan: 'blurred' }), row(3, 3, { aside: 'by hand' }), row(4, 4)];
    const found = waiting([finding(1, { fine }), finding(2), finding(3), finding(4), finding(9)], pages);
    expect(found.map(({ finding: { page } }) => page)).toEqual([4]);
  });

  it('is what was held aside as blank, where traces were found on it', () => {
    const pages = [row(3, 3, { aside: 'blank' })];
    expect(waiting([finding(3, { kind: 'blank' })], pages)).toHaveLength(1);
  });
});

describe('the place in the queue', () => {
  const queue = waiting([finding(1), finding(2), finding(3)], [row(1, 1), row(2, 2), row(3, 3)]);
  const key = (page: number) => keyOf(finding(page));

  it('stays with what is in hand', () => {
    expect(placeIn(queue, { key: key(2), at: 0 })).toBe(1);
  });

  it('is that of what comes behind it once it is decided, and the last one at the end', () => {
    expect(placeIn(queue, { key: 'gone', at: 1 })).toBe(1);
    expect(placeIn(queue, { key: 'gone', at: 3 })).toBe(2);
  });

  it('begins at the page that the address names, or at the first', () => {
    expect(placeIn(queue, undefined, 3)).toBe(2);
    expect(placeIn(queue, undefined, 9)).toBe(0);
    expect(placeIn(queue, undefined)).toBe(0);
  });
});

it('counts by title, the most first, with where the first of them is', () => {
  const pages = [row(1, 1), row(2, 2), row(3, 3)];
  const found = byTitle(
    waiting([finding(1, { title: 'B' }), finding(2, { title: 'A' }), finding(3, { title: 'A' })], pages),
  );
  expect(found).toEqual([
    { title: 'A', count: 2, at: 1 },
    { title: 'B', count: 1, at: 0 },
  ]);
});

describe('the part of a picture around a spot', () => {
  it('has the spot in its middle', () => {
    expect(around([490, 690, 20, 20], [1000, 1400], [200, 100])).toEqual([400, 650, 200, 100]);
  });

  it('stays within the picture', () => {
    expect(around([0, 1390, 10, 10], [1000, 1400], [200, 100])).toEqual([0, 1300, 200, 100]);
    expect(around([990, 0, 10, 10], [1000, 1400], [200, 100])).toEqual([800, 0, 200, 100]);
  });

  it('is no larger than the picture', () => {
    expect(around([5, 5, 10, 10], [120, 60], [200, 100])).toEqual([0, 0, 120, 60]);
  });
});
