import { describe, expect, it } from 'vitest';
import type { PageRow, Run } from '@/api/types';
import { halves, inOrder } from './halves';

/** Captures of a one-sided feeder, as they are listed: the last one first. */
const run = (id: number, half: string | null, pages: (number | null)[] = [], state = 'done') =>
  ({ id, state, settings: { half }, files: pages.map((page) => ({ page })) }) as unknown as Run;
const listed = (...ids: number[]) => ids.map((id, at) => ({ id, number: at + 1 }) as PageRow);

describe('fronts and backs', () => {
  const fronts = run(1, 'fronts', [11, 12, 13]);
  const backs = run(2, 'backs', [21, 22, 23]);

  it('belong together when the backs were captured after the fronts', () => {
    expect(halves([backs, fronts])).toEqual({ fronts, backs });
    expect(halves([run(3, null), backs, fronts])).toEqual({ fronts, backs });
  });

  it('wait for backs after the last fronts, whatever came before', () => {
    const next = run(3, 'fronts');
    expect(halves([next, backs, fronts])).toEqual({ fronts: next, backs: undefined });
  });

  it('are none while a capture runs, after backs alone, or before anything', () => {
    expect(halves([run(1, 'fronts', [], 'running')])).toBeUndefined();
    expect(halves([backs])).toBeUndefined();
    expect(halves(undefined)).toBeUndefined();
  });

  it('are to be brought together until they stand among each other', () => {
    expect(inOrder({ fronts, backs }, listed(11, 12, 13, 21, 22, 23))).toBe(false);
    expect(inOrder({ fronts, backs }, listed(11, 21, 12, 22, 13, 23))).toBe(true);
  });

  it('are left alone when one of them is gone or not taken in yet', () => {
    expect(inOrder({ fronts, backs }, listed(11, 12, 13, 21, 22))).toBe(true);
    expect(inOrder({ fronts, backs: undefined }, listed(11, 12, 13))).toBe(true);
    expect(inOrder({ fronts, backs: run(2, 'backs', [21, null]) }, listed(11, 12, 13, 21))).toBe(true);
  });
});
