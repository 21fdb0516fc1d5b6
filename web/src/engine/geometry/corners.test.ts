import { describe, expect, it } from 'vitest';
import { dragged, HANDLES, handleName, isPage, opened, placeOf, reordered, rotated, tiltOf } from './corners';
import type { Quad } from './projective';

const page: Quad = [
  [10, 20],
  [110, 20],
  [110, 170],
  [10, 170],
];
const image = [200, 200] as const;

describe('the corners of a page', () => {
  it('go where they are taken, and no other moves', () => {
    const after = dragged(page, 2, 5, -7, image);
    expect(after[2]).toEqual([115, 163]);
    expect([after[0], after[1], after[3]]).toEqual([page[0], page[1], page[3]]);
  });

  it('open one side of what is cleared as far as the page and beyond, and no other', () => {
    const plain: Quad = [
      [20, 30],
      [100, 30],
      [100, 160],
      [20, 160],
    ];
    const left = opened(plain, page, 7, image, 5);
    expect(Math.max(left[0][0], left[3][0])).toBeLessThanOrEqual(5.1);
    expect([left[1], left[2]]).toEqual([plain[1], plain[2]]);
    expect([left[0][1], left[3][1]]).toEqual([30, 160]);
  });

  it('go across together where a side is taken, whatever way the hand goes', () => {
    expect(dragged(page, 4, 30, 9, image)).toEqual([
      [10, 29],
      [110, 29],
      [110, 170],
      [10, 170],
    ]);
    expect(placeOf(dragged(page, 7, -4, 50, image), 7)).toEqual([6, 95]);
  });

  it('stay near the image', () => {
    expect(dragged(page, 0, -500, -500, image)[0]).toEqual([-20, -20]);
  });

  it('run along the sides that meet a dragged side, so that a trapezium keeps its angles', () => {
    const leaning: Quad = [
      [20, 0],
      [100, 0],
      [120, 100],
      [0, 100],
    ];
    const after = dragged(leaning, 6, 0, 50, [400, 400]);
    expect(after[3]).toEqual([-10, 150]);
    expect(after[2]).toEqual([130, 150]);
  });

  it('have eight handles with names of their own', () => {
    expect(new Set(HANDLES.map(handleName)).size).toBe(8);
    expect(handleName(5)).toBe('right side');
  });

  it('are a page only while they run round one way', () => {
    expect(isPage(page)).toBe(true);
    expect(isPage([page[1], page[0], page[2], page[3]])).toBe(false);
    expect(isPage([page[0], page[1], [60, 40], page[3]])).toBe(false);
  });

  it.each([0, 90, 180, 270] as const)('come back from the order of a page turned by %i', (turn) => {
    const out = reordered(page, -turn as -90);
    expect(reordered(out, turn)).toEqual(page);
  });

  it('are in the order of the output page as core has it', () => {
    // After a clockwise quarter turn the output's top-left was the source's bottom-left.
    expect(reordered(page, -90)[0]).toEqual(page[3]);
  });
});

it('a line drawn along the text or down a rule says the same tilt', () => {
  expect(tiltOf([0, 0], [100, 2])).toBeCloseTo(1.1458, 3);
  expect(tiltOf([100, 2], [0, 0])).toBeCloseTo(1.1458, 3);
  expect(tiltOf([0, 0], [-2, 100])).toBeCloseTo(1.1458, 3);
});

it('turning by a tilt levels a side', () => {
  const turned = rotated(page, 3);
  expect(tiltOf(turned[0], turned[1])).toBeCloseTo(3, 3);
});
