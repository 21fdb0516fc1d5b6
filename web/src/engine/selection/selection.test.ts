import { describe, expect, it } from 'vitest';
import { afterGap, type Happening, NOTHING, type Seen, type Selection, selecting } from './selection';

const ALL = [1, 2, 3, 4, 5, 6];
const seen: Seen = { shown: ALL, all: ALL };

function chosen(...happenings: (Happening | [Happening, Seen])[]): Selection {
  return happenings.reduce<Selection>((now, one) => {
    const [happened, at] = Array.isArray(one) ? one : [one, seen];
    return selecting(now, happened, at);
  }, NOTHING);
}
const ids = ({ ids, current }: Selection) => [[...ids], current];
const step = (by: number, how: 'alone' | 'run' | 'walk' = 'alone'): Happening => ({ kind: 'step', by, how });

describe('a choice of pages', () => {
  it('is one page, a run from where it began, or some picked one by one', () => {
    expect(ids(chosen({ kind: 'only', id: 2 }, { kind: 'extend', id: 4 }))).toEqual([[2, 3, 4], 4]);
    expect(ids(chosen({ kind: 'only', id: 4 }, { kind: 'extend', id: 2 }, { kind: 'extend', id: 5 }))).toEqual([
      [4, 5],
      5,
    ]);
    expect(ids(chosen({ kind: 'only', id: 2 }, { kind: 'toggle', id: 5 }))).toEqual([[2, 5], 5]);
    expect(ids(chosen({ kind: 'only', id: 2 }, { kind: 'toggle', id: 2 }))).toEqual([[2], 2]);
  });

  it('goes along with the step, or stays while keys walk on and pick single pages', () => {
    expect(ids(chosen({ kind: 'only', id: 2 }, step(1)))).toEqual([[3], 3]);
    expect(ids(chosen({ kind: 'only', id: 2 }, step(2, 'run')))).toEqual([[2, 3, 4], 4]);
    expect(ids(chosen({ kind: 'only', id: 2 }, step(2, 'walk'), { kind: 'toggle', id: 4 }))).toEqual([[2, 4], 4]);
  });

  it('stops at the ends', () => {
    expect(ids(chosen({ kind: 'only', id: 6 }, step(3)))).toEqual([[6], 6]);
    expect(ids(chosen({ kind: 'only', id: 1 }, step(-1)))).toEqual([[1], 1]);
    expect(ids(chosen(step(1)))).toEqual([[1], 1]);
    expect(ids(chosen(step(-1)))).toEqual([[6], 6]);
  });
});

describe('what a filter hides', () => {
  const some: Seen = { shown: [2, 5], all: ALL };
  const none: Seen = { shown: [], all: ALL };

  it('is not chosen any more', () => {
    expect(ids(chosen({ kind: 'all' }, [{ kind: 'seen', before: ALL }, some]))).toEqual([[2, 5], 2]);
    expect(ids(chosen({ kind: 'only', id: 3 }, [{ kind: 'seen', before: ALL }, some]))).toEqual([[5], 5]);
  });

  it('leaves nothing to act on where it hides everything', () => {
    expect(chosen({ kind: 'only', id: 3 }, [{ kind: 'seen', before: ALL }, none])).toEqual(NOTHING);
    expect(chosen({ kind: 'only', id: 3 }, [{ kind: 'seen', before: ALL }, none], [{ kind: 'all' }, none])).toEqual(
      NOTHING,
    );
    expect(chosen([step(1), none])).toEqual(NOTHING);
  });

  it('is not stepped to, and where the page at hand is hidden its neighbour is', () => {
    expect(ids(chosen({ kind: 'only', id: 3 }, [step(1), some]))).toEqual([[5], 5]);
    expect(ids(chosen({ kind: 'only', id: 3 }, [step(-1), some]))).toEqual([[2], 2]);
    expect(ids(chosen({ kind: 'only', id: 6 }, [step(1), some]))).toEqual([[5], 5]);
  });
});

describe('pages that go', () => {
  it('leave the one that comes to their place', () => {
    const left: Seen = { shown: [1, 2, 4, 5], all: [1, 2, 4, 5] };
    expect(ids(chosen({ kind: 'only', id: 3 }, [{ kind: 'seen', before: ALL }, left]))).toEqual([[4], 4]);
    expect(ids(chosen({ kind: 'only', id: 6 }, [{ kind: 'seen', before: ALL }, left]))).toEqual([[5], 5]);
  });

  it('change nothing where they were not chosen', () => {
    const before = chosen({ kind: 'only', id: 3 }, { kind: 'extend', id: 4 });
    expect(selecting(before, { kind: 'seen', before: ALL }, { shown: [1, 3, 4], all: [1, 3, 4] })).toBe(before);
  });
});

describe('a gap that pages are dragged to', () => {
  it('is behind the page before it', () => {
    expect(afterGap(seen, 0, new Set([4]))).toBeNull();
    expect(afterGap(seen, 2, new Set([4]))).toBe(2);
    expect(afterGap(seen, 6, new Set([4]))).toBe(6);
  });

  it('before the first page that a filter shows is not the front of the stack', () => {
    expect(afterGap({ shown: [4, 6], all: ALL }, 0, new Set([6]))).toBe(3);
    expect(afterGap({ shown: [4, 6], all: ALL }, 0, new Set([3, 6]))).toBe(2);
    expect(afterGap({ shown: [1, 6], all: ALL }, 0, new Set([6]))).toBeNull();
  });
});
