import { describe, expect, it } from 'vitest';
import { chain, shift, stretch } from '@/engine/geometry/projective';
import { levelFor, smallOf, tilesFor, wholeOf } from './tiles';

const SIZE = [2480, 3508] as const;
const PANE = [600, 700] as const;
const at = (x: number, y: number, scale: number) => chain(shift(-x, -y), stretch(scale), shift(300, 350));

describe('tiles', () => {
  it('are none while the whole image is fine enough', () => {
    expect(tilesFor(SIZE, at(1240, 1754, 0.2), PANE, 1)).toEqual([]);
    expect(tilesFor([900, 1200], at(450, 600, 4), PANE, 1)).toEqual([]);
  });

  it('cover what is seen, at 1:1', () => {
    const tiles = tilesFor(SIZE, at(1240, 1754, 1), PANE, 1);
    const lefts = tiles.map(({ box }) => box[0]);
    const tops = tiles.map(({ box }) => box[1]);
    expect(Math.min(...lefts)).toBeLessThanOrEqual(940);
    expect(Math.max(...tiles.map(({ box }) => box[0] + box[2]))).toBeGreaterThanOrEqual(1540);
    expect(Math.min(...tops)).toBeLessThanOrEqual(1404);
    expect(Math.max(...tiles.map(({ box }) => box[1] + box[3]))).toBeGreaterThanOrEqual(2104);
    expect(tiles[0]?.address).toBe('512,1024,512,512/512,512');
  });

  it('lie at the same places wherever one looks, so that they are found again', () => {
    const here = new Set(tilesFor(SIZE, at(1240, 1754, 1), PANE, 1).map(({ address }) => address));
    const there = tilesFor(SIZE, at(1290, 1720, 1), PANE, 1).filter(({ address }) => here.has(address));
    expect(there.length).toBeGreaterThan(3);
    const closer = tilesFor(SIZE, at(1240, 1754, 1.3), PANE, 1).filter(({ address }) => here.has(address));
    expect(closer.length).toBeGreaterThan(0);
  });

  it('end with the image', () => {
    const last = tilesFor(SIZE, at(2480, 3508, 1), PANE, 1).at(-1);
    expect(last).toEqual({ address: '2048,3072,432,436/432,436', box: [2048, 3072, 432, 436] });
  });

  it.each([
    [2, 1],
    [1, 1],
    [0.99, 1],
    [0.5, 2],
    [0.49, 2],
    [0.25, 4],
  ])('shown at %f come at level %i, never coarser than the screen', (fine, level) => {
    expect(levelFor(fine)).toBe(level);
  });

  it('are never more than a screen can show', () => {
    expect(tilesFor([60_000, 60_000], at(30_000, 30_000, 1), [6000, 6000], 2).length).toBeLessThanOrEqual(64);
  });
});

describe('addresses', () => {
  it('of the whole ask for no more than is shown at first, and of a small one for all of it', () => {
    expect(wholeOf({ address: '/iiif/render/a', size: [2480, 3508] })).toBe(
      '/iiif/render/a/full/!1400,1400/0/default.jpg',
    );
    expect(wholeOf({ address: '/iiif/render/a', size: [800, 600] })).toBe('/iiif/render/a/full/max/0/default.jpg');
  });

  it('of the small image are those of the grid, which has it already', () => {
    expect(smallOf('/iiif/render/a')).toBe('/thumbs/render/a.webp');
  });
});
