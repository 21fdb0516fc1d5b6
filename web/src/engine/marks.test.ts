import { describe, expect, it } from 'vitest';
import { amid, between, changed, LEAST, moved, newName, sized } from './marks';

describe('marks on a page', () => {
  it('are moved as far as the page goes, and keep their size', () => {
    expect(moved([0.1, 0.2, 0.3, 0.4], 0.1, -0.1)).toEqual([0.2, 0.1, 0.4, expect.closeTo(0.3)]);
    expect(moved([0.1, 0.2, 0.3, 0.4], -0.5, 0.9)).toEqual([0, expect.closeTo(0.8), expect.closeTo(0.2), 1]);
  });
  it('never get so small that they cannot be seen, nor larger than the page', () => {
    expect(sized([0.1, 0.1, 0.2, 0.2], -1, -1)).toEqual([0.1, 0.1, 0.1 + LEAST, 0.1 + LEAST]);
    expect(sized([0.1, 0.1, 0.2, 0.2], 2, 0.1)).toEqual([0.1, 0.1, 1, expect.closeTo(0.3)]);
  });
  it('are drawn from any corner to the other', () => {
    expect(between([0.5, 0.6], [0.2, 0.3])).toEqual([0.2, 0.3, 0.5, 0.6]);
    expect(between([-0.5, 0.2], [0.5, 1.7])).toEqual([0, 0.2, 0.5, 1]);
    expect(between([0.5, 0.5], [0.5 + LEAST / 2, 0.9])).toBeUndefined();
    expect(between([0.5, 0.5], [0.9, 0.5 + LEAST / 2])).toBeUndefined();
    expect(between([1.2, 0.5], [1.9, 0.9])).toBeUndefined();
  });
  it('are placed in the middle of what is seen', () => {
    expect(amid([0.2, 0.2, 0.6, 0.4])).toEqual([0.3, 0.2875, 0.5, 0.3125].map((one) => expect.closeTo(one)));
    expect(amid([-3, -3, 0.05, 0.01])[0]).toBe(0);
  });
  it('are put one by one, so that those of somebody else stay', () => {
    const [a, b] = [
      { id: 'a', at: 1 },
      { id: 'b', at: 2 },
    ];
    expect(changed([a, b], [{ id: 'a', at: 3 }], [])).toEqual([{ id: 'a', at: 3 }, b]);
    expect(changed([a], [b], ['a', 'c'])).toEqual([b]);
  });
  it('have names of their own that the server takes', () => {
    const names = new Set(Array.from({ length: 50 }, newName));
    expect(names.size).toBe(50);
    for (const name of names) expect(name).toMatch(/^[a-z0-9-]{6,40}$/);
  });
});
