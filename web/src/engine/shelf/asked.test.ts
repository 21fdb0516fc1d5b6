import { describe, expect, it } from 'vitest';
import { ALL, SORTS, STATES, searchOf, shelfAddress, shelfAskedIn, since } from './asked';

describe('what is asked of the shelf', () => {
  it('comes back from its address as it went', () => {
    for (const at of STATES)
      for (const sort of SORTS) {
        const asked = { at, named: 'Box & 7', collection: 12, by: 'the keeper', span: 30, sort } as const;
        expect(shelfAskedIn(searchOf(asked))).toEqual(asked);
      }
    expect(shelfAskedIn(searchOf({ ...ALL, collection: 0 })).collection).toBe(0);
  });

  it('is no part of the address where it is as always', () => {
    expect(shelfAddress(ALL)).toBe('/');
    expect(shelfAddress({ ...ALL, sort: 'name' })).toBe('/?sort=name');
  });

  it('leaves what is no such thing', () => {
    expect(shelfAskedIn('at=gone&sort=size&days=3&collection=-1')).toEqual(ALL);
    expect(shelfAskedIn('collection=9e9').collection).toBeNull();
  });

  it('counts days back with today among them', () => {
    const today = new Date(2026, 2, 1, 23, 30);
    expect(since(0, today)).toBeUndefined();
    expect(since(1, today)).toBe('2026-03-01');
    expect(since(7, today)).toBe('2026-02-23');
  });
});
