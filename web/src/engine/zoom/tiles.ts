/**
 * The pieces of an image that are fetched when it is looked at closely. They lie at fixed places, halved in scale from one level
 * to the next, so that whoever looks again, or elsewhere, finds them in the cache.
 *
 * Source: IIIF Image API 3.0, 5.4 (tiles): region and size of a tile at a scale factor.
 */

import type { Matrix } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { magnification, seen } from './view';

export const TILE = 512;
/** The whole image comes so large at first; what is shown finer than that is fetched in tiles. */
export const BASE_PX = 1400;
/** More would be decoded than a screen can show. */
const MOST = 64;

export type Tile = {
  /** Region and size as they stand in the address. */
  address: string;
  /** In pixels of the image: left, top, width, height. */
  box: readonly [number, number, number, number];
};

/** Pixels of the image for one of the level that is fine enough: a power of two. */
export function levelFor(fine: number): number {
  return 2 ** Math.max(0, Math.floor(Math.log2(1 / Math.max(fine, 1e-6)) + 1e-9));
}

/** Tiles for what can be seen of an image through a pane; none where the whole image is fine enough. `ratio`: screen pixels for one of CSS. */
export function tilesFor(size: Size, toScreen: Matrix, pane: Size, ratio: number): Tile[] {
  const longest = Math.max(...size);
  const fine = magnification(toScreen, size) * ratio;
  if (longest <= BASE_PX || fine * longest <= BASE_PX * 1.1) return [];
  const region = seen(toScreen, pane, size);
  if (!region) return [];
  const [left, top, wide, high] = region;
  for (let level = levelFor(fine); level < 1024; level *= 2) {
    const span = TILE * level;
    const [x0, y0] = [Math.floor(left / span), Math.floor(top / span)];
    const [x1, y1] = [Math.ceil((left + wide) / span), Math.ceil((top + high) / span)];
    if ((x1 - x0) * (y1 - y0) > MOST) continue;
    const tiles: Tile[] = [];
    for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) tiles.push(tile(x, y, span, level, size));
    return tiles;
  }
  return [];
}

function tile(x: number, y: number, span: number, level: number, [width, height]: Size): Tile {
  const [left, top] = [x * span, y * span];
  const [wide, high] = [Math.min(span, width - left), Math.min(span, height - top)];
  const size = [wide, high].map((side) => Math.max(1, Math.ceil(side / level)));
  return { address: `${left},${top},${wide},${high}/${size.join(',')}`, box: [left, top, wide, high] };
}

/** Where the whole of a picture is found, as large as it is shown at first. */
export function wholeOf({ address, size }: { address: string; size: Size }): string {
  return `${address}/full/${Math.max(...size) > BASE_PX ? `!${BASE_PX},${BASE_PX}` : 'max'}/0/default.jpg`;
}

/** The small image of a picture, which is seen before the picture has come. */
export function smallOf(address: string): string {
  return `${address.replace(/^\/iiif/, '/thumbs')}.webp`;
}
