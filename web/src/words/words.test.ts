import { describe, expect, it } from 'vitest';
import type { Stack } from '@/api/types';
import { day, when } from './figures';
import { waitsOf } from './waits';

const NONE = {
  review: 0,
  about: false,
  failed: 0,
  held: 0,
  expected: 0,
  stopped: '',
  backs: 0,
  undelivered: 0,
  lost: 0,
};
const COUNTS = { pages: 10, opened: 10, measured: 10, corrected: 10, read: 10, aside: 0, failed: 0, ready: 10 };
const stack = (waits: object, counts: object = {}, more: object = {}) =>
  ({ waits: { ...NONE, ...waits }, counts: { ...COUNTS, ...counts }, documents: 0, bytes: 0, ...more }) as Stack;
const said = (one: Stack) => waitsOf(one).map(({ hand, text }) => `${hand ? '! ' : ''}${text}`);

describe('what a stack waits for', () => {
  it.each([
    [stack({}), ['10 pages are ready to bind']],
    [stack({}, { ready: 1, aside: 9 }), ['1 page is ready to bind']],
    [stack({ review: 2 }), ['! 2 pages to look at', '10 pages are ready to bind']],
    [stack({ review: 40, about: true }), ['! about 40 pages to look at', '10 pages are ready to bind']],
    [
      stack({ expected: 10 }, {}, { documents: 3, bytes: 1_100_000 }),
      ['! 10 files did not come in', '3 documents, 1.1\u2009MB'],
    ],
    [stack({ expected: 1 }, { pages: 0, ready: 0 }), ['! 1 file did not come in']],
    [stack({}, { pages: 0, ready: 0 }), ['no pages yet']],
    [
      stack({ stopped: 'Sheet 7 is jammed.', failed: 1 }, { ready: 9, failed: 1 }),
      ['! Sheet 7 is jammed.', '! 1 page failed', '9 pages are ready to bind'],
    ],
    [stack({}, { read: 6, ready: 6 }), ['text read on 6 of 10']],
    [stack({}, { read: 8, ready: 6, aside: 2 }), ['text read on 6 of 8']],
    [stack({}, { opened: 1200, pages: 2000 }), ['1,200 of 2,000 opened']],
    // Failed pages hold no step up.
    [
      stack({ failed: 1 }, { opened: 9, measured: 9, corrected: 9, read: 5, ready: 5, failed: 1 }),
      ['! 1 page failed', 'text read on 5 of 9'],
    ],
    [
      stack({ failed: 1 }, { opened: 9, measured: 9, corrected: 8, read: 5, ready: 5, failed: 1 }),
      ['! 1 page failed', '8 of 9 corrected'],
    ],
    [
      stack({ held: 3 }, { measured: 4, corrected: 4, read: 4, ready: 4 }),
      ['3 pages held up, tried again', '4 of 10 measured'],
    ],
    [stack({ backs: 8 }, { ready: 10 }), ['! 8 backs still to come', '10 pages are ready to bind']],
  ])('%#', (one, expected) => expect(said(one)).toEqual(expected));
});

describe('a day', () => {
  const now = new Date(2026, 10, 27, 15, 0);
  it.each([
    [new Date(2026, 10, 27, 0, 5), 'today, 00:05'],
    [new Date(2026, 10, 26, 23, 59), 'yesterday'],
    [new Date(2026, 10, 25, 12), 'Wednesday'],
    [new Date(2026, 10, 21, 12), 'Saturday'],
    [new Date(2026, 10, 20, 12), '20 November'],
    [new Date(2025, 10, 27, 12), '27 November 2025'],
    [new Date(2026, 10, 28, 12), '28 November'],
  ])('%s is %s', (then, words) => expect(day(then.toISOString(), now)).toBe(words));

  it('with its time says in which zone', () => {
    expect(when('2026-11-27T12:00:00Z')).toMatch(/27 Nov 2026,? .*\d\d:\d\d (UTC|GMT|[A-Z]+)/);
  });
});
