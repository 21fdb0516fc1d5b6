import { describe, expect, it } from 'vitest';
import type { Counts } from '@/api/types';
import { cameIn, ended, open, stepsOf } from './steps';

const counts = (more: Partial<Counts> = {}): Counts => ({
  pages: 16,
  opened: 16,
  measured: 16,
  corrected: 16,
  read: 14,
  aside: 2,
  failed: 0,
  inspect: 0,
  ready: 14,
  ...more,
});

describe('the steps of a stack', () => {
  it('are open while a page that can pass them has not', () => {
    expect(stepsOf(counts()).map(open)).toEqual([false, false, false]);
    expect(stepsOf(counts({ ready: 13 })).map(open)).toEqual([false, false, true]);
    expect(stepsOf(counts({ measured: 15 })).map(open)).toEqual([true, false, false]);
  });

  it('are not held up by pages that failed', () => {
    const failed = counts({ failed: 1, opened: 15, measured: 15, corrected: 15, ready: 13 });
    expect(stepsOf(failed).map(open)).toEqual([false, false, false]);
    expect(cameIn(failed)).toBe(16);
  });

  it('have nothing to do before anything is known', () => {
    expect(stepsOf(undefined).map(open)).toEqual([false, false, false]);
    expect(cameIn(undefined)).toBe(0);
  });
});

describe('what is heard of them', () => {
  it('is their end, and nothing on the way', () => {
    expect(ended(counts({ measured: 3 }), counts({ measured: 15 }))).toBe('');
    expect(ended(counts({ measured: 15 }), counts())).toBe('Measured: all 16 pages.');
    expect(ended(counts({ corrected: 15, ready: 13 }), counts())).toBe(
      'Corrected: all 16 pages. Text read: all 14 pages.',
    );
  });

  it('is their end once, and again after more has come', () => {
    expect(ended(counts(), counts())).toBe('');
    expect(ended(counts(), counts({ pages: 17 }))).toBe('');
    expect(ended(counts({ pages: 17 }), counts({ pages: 17, measured: 17 }))).toBe('Measured: all 17 pages.');
  });

  it('is a failure at once', () => {
    expect(ended(counts({ ready: 3 }), counts({ ready: 3, failed: 1 }))).toBe('1 page has failed.');
    expect(ended(counts({ ready: 3 }), counts({ ready: 3, failed: 2 }))).toBe('2 pages have failed.');
    expect(ended(counts({ failed: 2, ready: 3 }), counts({ failed: 1, ready: 3 }))).toBe('');
  });

  it('is nothing when the last page has gone', () => {
    expect(ended(counts({ ready: 3 }), counts({ pages: 0, aside: 0, measured: 0, corrected: 0, ready: 0 }))).toBe('');
  });

  it('is a sentence for a single page too', () => {
    const one = counts({ pages: 1, measured: 1, corrected: 1, ready: 1, aside: 0 });
    expect(ended({ ...one, ready: 0 }, one)).toBe('Text read: 1 page.');
  });
});
