import { describe, expect, it } from 'vitest';
import type { Sample } from '@/api/types';
import { lineOf, meaningOf, nextIn, pointNear, saidOf } from './sample';

const look = (page: number, worst: '' | 'major', stands = true) => ({
  page,
  worst,
  note: '',
  by: 'keeper',
  at: '2026-11-28T10:00:00Z',
  stands,
});
const sample = (pages: number[], left: number[], looks = [look(1, 'major')]) => ({ pages, left, looks }) as Sample;

describe('going through a sample', () => {
  it('goes to the next page that nobody has looked at, round the end', () => {
    expect(nextIn(sample([1, 2, 3, 4], [2, 4]), 2)).toBe(4);
    expect(nextIn(sample([1, 2, 3, 4], [2, 4]), 4)).toBe(2);
    expect(nextIn(sample([1, 2, 3, 4], [2, 4]), undefined)).toBe(2);
  });
  it('stays where nothing is left, and begins with the first page then', () => {
    expect(nextIn(sample([1, 2], []), 2)).toBe(2);
    expect(nextIn(sample([1, 2], [2]), 2)).toBe(2);
    expect(nextIn(sample([1, 2], []), undefined)).toBe(1);
  });
  it('knows what was said, as long as the page is the one that was looked at', () => {
    expect(saidOf(sample([1], []), 1)).toBe('major');
    expect(saidOf(sample([1], [1], [look(1, 'major', false)]), 1)).toBeUndefined();
    expect(saidOf(sample([1, 2], [2]), 2)).toBeUndefined();
  });
});

const CURVE: [number, number][] = [
  [0, 1],
  [0.02, 0.9],
  [0.04, 0.6],
  [0.08, 0.1],
  [0.2, 0.01],
];

describe('what a plan means', () => {
  it('is told for its limit, and for stacks that seldom pass', () => {
    expect(meaningOf(CURVE, '2.5', 400)).toEqual([
      'A stack in which 2 of 100 pages are bad passes 90 times in 100.',
      'A stack in which 8 of 100 pages are bad passes 10 times in 100.',
    ]);
  });
  it('is told in pages of a small lot', () => {
    expect(meaningOf([...CURVE.slice(0, 3)], '2.5', 50)).toEqual([
      'A stack with 1 bad page among 50 passes 90 times in 100.',
      'A stack with 2 bad pages among 50 still passes 60 times in 100.',
    ]);
  });
  it('says nothing of a lot without a plan', () => {
    expect(meaningOf([], '2.5', 1)).toEqual([]);
    expect(meaningOf([[0, 1]], '0.65', 2)).toEqual([]);
  });
  it('never speaks of a stack without bad pages', () => {
    expect(pointNear(CURVE, 0.001)).toEqual([0.02, 0.9]);
  });
  it('is drawn from corner to corner', () => {
    expect(
      lineOf(
        [
          [0, 1],
          [0.2, 0],
        ],
        100,
        50,
      ),
    ).toBe('M0.0 0.0 L100.0 50.0');
  });
});
