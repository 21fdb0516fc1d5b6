import { describe, expect, it } from 'vitest';
import { NOTHING } from '@/engine/capture/slip';
import { afterWords, isSaid, originalWords, placeWords } from './original';

describe('where papers are, and what becomes of them', () => {
  it('is said as one would', () => {
    expect(placeWords({ ...NOTHING, box: '27', shelf: 'C 4', position: 'folder 3' })).toBe(
      'box 27, shelf C 4, folder 3',
    );
    expect(afterWords({ ...NOTHING, after: 'kept', until: '2031-01-31', by: 'the trust' })).toBe(
      'kept until 31 January 2031, by the trust',
    );
    expect(afterWords({ ...NOTHING, after: 'kept' })).toBe('kept');
    expect(afterWords({ ...NOTHING, after: 'destroyed' })).toBe('destroyed after sign-off');
    expect(originalWords({ ...NOTHING, box: '27', after: 'back' })).toBe('box 27; back to its place');
    expect(originalWords({ ...NOTHING, year: '1927', box: '27' })).toBe('1927, box 27');
    expect(originalWords(NOTHING)).toBe('nothing is said');
    expect(isSaid(NOTHING)).toBe(false);
    expect(isSaid({ ...NOTHING, box: '27' })).toBe(true);
  });
});
