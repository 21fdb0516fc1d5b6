import { describe, expect, it } from 'vitest';
import type { PaperPath } from '@/api/types';
import { onGlassAt, turnOf } from './paper';

describe('paper of a size on a glass', () => {
  const bed = { width_mm: 216, height_mm: 356 };
  const at = (place: PaperPath['place'], edge: PaperPath['edge'] = 'top', face: PaperPath['face'] = 'down') =>
    onGlassAt({ face, edge, place }, bed, [148, 210]);

  it('begins in the corner of the mark, which the picture shows from below', () => {
    expect(at('back right')).toEqual({ x: 0, y: 0 });
    expect(at('back left')).toEqual({ x: 68, y: 0 });
    expect(at('front right')).toEqual({ x: 0, y: 146 });
    expect(at('front left')).toEqual({ x: 68, y: 146 });
    expect(at('front left', 'bottom')).toEqual({ x: 0, y: 0 });
    expect(at('back right', 'top', 'up')).toEqual({ x: 68, y: 0 });
    expect(onGlassAt(undefined, bed, [148, 210])).toEqual({ x: 0, y: 0 });
  });

  it('begins at nothing less than the edge where it is larger than the glass', () => {
    expect(onGlassAt({ face: 'down', edge: 'top', place: 'front left' }, bed, [300, 400])).toEqual({ x: 0, y: 0 });
  });
});

describe('a sheet seen from above', () => {
  it('is turned so that its edge lies ahead', () => {
    expect(turnOf({ face: 'up', edge: 'top' })).toBe(0);
    expect(turnOf({ face: 'up', edge: 'bottom' })).toBe(180);
    // Its right edge comes ahead by a quarter turn against the clock.
    expect(turnOf({ face: 'up', edge: 'right' })).toBe(270);
    expect(turnOf({ face: 'up', edge: 'left' })).toBe(90);
  });

  it('has left and right on the other side where it lies face down', () => {
    expect(turnOf({ face: 'down', edge: 'right' })).toBe(90);
    expect(turnOf({ face: 'down', edge: 'left' })).toBe(270);
    expect(turnOf({ face: 'down', edge: 'bottom' })).toBe(180);
  });
});
