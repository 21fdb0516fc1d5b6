import { describe, expect, it } from 'vitest';
import type { Quad } from './projective';
import { downTheMiddle, type Ends, endsOf, lineThrough, movedLine } from './splitLine';
import { type Size, type Turn, turnedSize } from './turned';

const CAPTURED: Size = [3000, 2000];
const TURNS: Turn[] = [0, 90, 180, 270];

describe('a split line', () => {
  it.each(TURNS)('keeps its ends on the edges however the page is turned (%i°)', (turn) => {
    const [width] = turnedSize(CAPTURED, turn);
    const line = { top: width * 0.4, bottom: width * 0.6 };
    const again = lineThrough(endsOf(line, CAPTURED, turn), CAPTURED, turn);
    expect(again?.top).toBeCloseTo(line.top, 0);
    expect(again?.bottom).toBeCloseTo(line.bottom, 0);
  });

  it.each(TURNS)('follows the pointer across the page as it is seen (%i°)', (turn) => {
    const [width] = turnedSize(CAPTURED, turn);
    const before = { top: width / 2, bottom: width / 2 };
    const ends = endsOf(before, CAPTURED, turn);
    const wanted = endsOf({ top: before.top + 100, bottom: before.bottom + 100 }, CAPTURED, turn);
    const [dx, dy] = [wanted[0][0] - ends[0][0], wanted[0][1] - ends[0][1]];
    const moved = movedLine(before, 'middle', dx, dy, CAPTURED, turn);
    expect([moved.top - before.top, moved.bottom - before.bottom]).toEqual([100, 100]);
    expect(movedLine(before, 'top', dx, dy, CAPTURED, turn).bottom).toBe(before.bottom);
    expect(movedLine(before, 'bottom', dx, dy, CAPTURED, turn).top).toBe(before.top);
  });

  it('stays within the image, and is drawn on to its edges', () => {
    const fold: Ends = [
      [1500, 300],
      [1520, 1700],
    ];
    const line = lineThrough(fold, CAPTURED, 0);
    expect(line?.top).toBeCloseTo(1495.7, 1);
    expect(line?.bottom).toBeCloseTo(1524.3, 1);
    expect(movedLine({ top: 1500, bottom: 1500 }, 'middle', 9000, 0, CAPTURED, 0)).toEqual({ top: 2940, bottom: 2940 });
  });

  it('lies along a tilted page where nothing else tells', () => {
    const tilted: Quad = [
      [1100, 100],
      [2100, 120],
      [2060, 1920],
      [1060, 1900],
    ];
    const line = downTheMiddle(tilted, CAPTURED, 0);
    expect(line.top).toBeCloseTo(1602.4, 1);
    expect(line.bottom).toBeCloseTo(1558, 1);
  });

  it('is none where it runs across the page', () => {
    expect(
      lineThrough(
        [
          [1500, 0],
          [1500, 2000],
        ],
        CAPTURED,
        90,
      ),
    ).toBeUndefined();
  });
});
