import { describe, expect, it } from 'vitest';
import { paperWords } from './paper';

describe('how paper goes in', () => {
  it('is said of a feeder by its guides, and of a glass by its mark', () => {
    expect(paperWords('feeder', { face: 'down', edge: 'bottom', place: 'right' })).toBe(
      'Lay sheets in face down, bottom edge first, the guides snug against them at the right.',
    );
    expect(paperWords('feeder', { face: 'up', edge: 'top', place: 'middle' })).toContain('in the middle.');
    expect(paperWords('platen', { face: 'down', edge: 'top', place: 'back right' })).toBe(
      'Lay the sheet face down, its top edge to the back, its corner at the mark at the back right.',
    );
  });
});
