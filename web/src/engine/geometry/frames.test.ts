import { describe, expect, it } from 'vitest';
import { corners, drawn, HANDLES, moved, resized, trouble, turned } from './frames';

const frame = { x: 100, y: 80, width: 60, height: 40, angle: 30 };
const glass = { width_mm: 216, height_mm: 297 };

describe('a frame', () => {
  it.each(HANDLES)('held at %j keeps what lies opposite', (handle) => {
    const after = resized(frame, handle, 7, -3);
    const opposite = (one: typeof frame) => {
      const [a, b, c, d] = corners(one);
      const all = { '-1-1': c, '1-1': d, '11': a, '-11': b } as Record<string, [number, number] | undefined>;
      return all[`${handle.across || 1}${handle.down || 1}`] ?? [0, 0];
    };
    const [x1, y1] = opposite(frame);
    const [x2, y2] = opposite(after);
    expect(x2).toBeCloseTo(x1, 1);
    expect(y2).toBeCloseTo(y1, 1);
  });

  it('moves, turns, and is drawn from any corner', () => {
    expect(moved(frame, 1, 2)).toMatchObject({ x: 101, y: 82 });
    expect(turned({ ...frame, angle: 179 }, 2).angle).toBe(-179);
    expect(drawn(50, 60, 10, 20)).toEqual({ x: 30, y: 40, width: 40, height: 40, angle: 0 });
  });

  it('that is nothing, or beside the glass, says so', () => {
    expect(trouble(frame, glass)).toBeUndefined();
    expect(trouble({ ...frame, width: 0 }, glass)).toContain('too small');
    expect(trouble({ ...frame, x: 400 }, glass)).toContain('beside the glass');
  });
});
