/** What is wrong with a page before the camera: a port of core's `live`, which says why; held to it by a test. */

import type { Quad } from '@/engine/geometry/projective';
import type { Point } from '@/engine/geometry/turned';
import { area, liveOutline, type Outline } from './outline';
import { isWrittenOn } from './pieces';
import { grayOf, opened, type Plane, type Planes, sampled } from './plane';

export type LiveFault = 'no page' | 'no contrast' | 'cut off' | 'covered' | 'dark' | 'reflection' | 'blurred' | 'moves';

export type Sight = {
  readonly outline: Outline | undefined;
  readonly fault: LiveFault | undefined;
  /** At which sides it is cut off: 0 left, 1 top, 2 right, 3 bottom. */
  readonly sides: readonly number[];
};

export const SOFT_PX = 3.4;
/** The longer side of the frame on which sharpness is judged. */
export const SHARP_PX = 1280;
const COVERED = 0.75;
const [DARK, NIGHT] = [84, 40];
const [WIPED, WIPED_SHARE] = [252, 0.004];
const AT_RIM = 0.006;
const TILES = 12;
const TILE_CONTRAST = 40;
const [PROFILES, PROFILE_PX] = [40, 12];

export function look(planes: Planes, before?: Quad): Sight {
  const { outline, runsOut } = liveOutline(planes, before);
  const gray = grayOf(planes);
  const seen = (fault: LiveFault | undefined, sides: readonly number[] = []): Sight => ({ outline, fault, sides });
  if (level(gray.data, 0.95) < (outline ? DARK : NIGHT)) return seen('dark');
  if (!outline) {
    if (runsOut.length) return seen('cut off', runsOut);
    return seen(isWrittenOn(gray) ? 'no contrast' : 'no page');
  }
  const cut = cutOff(outline.quad, gray.width, gray.height);
  if (cut.length) return seen('cut off', cut);
  if (outline.confidence < COVERED) return seen('covered');
  if (wiped(gray, outline.quad) > WIPED_SHARE) return seen('reflection');
  return seen(undefined);
}

/** The width of the edges of writing where they are widest; of the paper's own where nothing is written; in pixels. */
export function softness(gray: Plane, quad: Quad): number | undefined {
  const sides = quad.map(([x, y], at) => {
    const [nx, ny] = quad[(at + 1) % 4] as Point;
    return Math.hypot(nx - x, ny - y);
  });
  const size = Math.max(24, Math.floor(Math.max(...sides) / TILES));
  const [xs, ys] = [quad.map(([x]) => x), quad.map(([, y]) => y)];
  const [left, top] = [Math.max(Math.floor(Math.min(...xs)), 0), Math.max(Math.floor(Math.min(...ys)), 0)];
  const [right, bottom] = [
    Math.min(Math.ceil(Math.max(...xs)), gray.width),
    Math.min(Math.ceil(Math.max(...ys)), gray.height),
  ];
  let widest: number | undefined;
  for (let y = top; y <= bottom - size; y += size)
    for (let x = left; x <= right - size; x += size) {
      if (depth(quad, x + size / 2, y + size / 2) < 0.72 * size) continue;
      const width = edgeWidth(gray, x, y, size);
      if (width !== undefined && (widest === undefined || width > widest)) widest = width;
    }
  return widest ?? paperEdge(gray, quad);
}

function edgeWidth(gray: Plane, left: number, top: number, size: number): number | undefined {
  const tile = new Uint8Array(size * size);
  for (let y = 0; y < size; y++)
    tile.set(gray.data.subarray((top + y) * gray.width + left, (top + y) * gray.width + left + size), y * size);
  const [low, high] = [level(tile, 0.005), level(tile, 0.9)];
  if (high - low < TILE_CONTRAST) return undefined;
  const steep = new Float32Array((size - 2) * (size - 2));
  let count = 0;
  for (let y = 1; y < size - 1; y++)
    for (let x = 1; x < size - 1; x++) {
      const at = y * size + x;
      const across = (tile[at + 1] as number) - (tile[at - 1] as number);
      const down = (tile[at + size] as number) - (tile[at - size] as number);
      steep[count++] = Math.sqrt(across * across + down * down) / 2;
    }
  steep.sort();
  return (high - low) / Math.max(steep[Math.floor(0.997 * steep.length)] as number, 1e-3);
}

function paperEdge(gray: Plane, quad: Quad): number | undefined {
  const widths = quad.flatMap((start, side) => {
    const end = quad[(side + 1) % 4] as Point;
    const length = Math.max(1e-6, Math.hypot(end[0] - start[0], end[1] - start[1]));
    const across: Point = [-(end[1] - start[1]) / length, (end[0] - start[0]) / length];
    const found: number[] = [];
    for (let sample = 0; sample < PROFILES; sample++) {
      const share = 0.1 + (0.8 * sample) / (PROFILES - 1);
      const [x, y] = [start[0] + share * (end[0] - start[0]), start[1] + share * (end[1] - start[1])];
      const line = Array.from({ length: 2 * PROFILE_PX + 1 }, (_, at) => {
        const off = at - PROFILE_PX;
        return sampled(gray, x + off * across[0] - 0.5, y + off * across[1] - 0.5);
      });
      const contrast = Math.max(...line) - Math.min(...line);
      if (contrast < TILE_CONTRAST) continue;
      const steep = Math.max(...line.slice(2).map((value, at) => Math.abs(value - (line[at] as number)))) / 2;
      found.push(contrast / Math.max(steep, 1e-3));
    }
    found.sort((a, b) => a - b);
    return found.length * 2 >= PROFILES ? [found[found.length >> 1] as number] : [];
  });
  return widths.length ? Math.min(...widths) : undefined;
}

/** The gray that this share of the pixels lies below. */
function level(data: Uint8Array, share: number): number {
  const counts = new Uint32Array(256);
  for (const gray of data) counts[gray] = (counts[gray] as number) + 1;
  let sum = 0;
  for (let gray = 0; gray < 256; gray++) {
    sum += counts[gray] as number;
    if (sum > share * data.length) return gray;
  }
  return 255;
}

/** How far a point lies within an outline, from its nearest side. */
function depth(quad: Quad, x: number, y: number): number {
  return Math.min(
    ...quad.map(([cx, cy], at) => {
      const [nx, ny] = quad[(at + 1) % 4] as Point;
      const [dx, dy] = [nx - cx, ny - cy];
      return (dx * (y - cy) - dy * (x - cx)) / Math.max(Math.hypot(dx, dy), 1e-6);
    }),
  );
}

function cutOff(quad: Quad, width: number, height: number): number[] {
  const near = AT_RIM * Math.max(width, height);
  const there = [
    quad.some(([x]) => x < near),
    quad.some(([, y]) => y < near),
    quad.some(([x]) => x > width - near),
    quad.some(([, y]) => y > height - near),
  ];
  return [0, 1, 2, 3].filter((side) => there[side]);
}

/** Share of the page that is nothing but light, in pieces of some size. */
function wiped(gray: Plane, quad: Quad): number {
  const { width, height } = gray;
  const light = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      if ((gray.data[at] as number) >= WIPED && depth(quad, x + 0.5, y + 0.5) >= 0) light[at] = 1;
    }
  const pieces = opened({ data: light, width, height }, 3, 0).data.reduce((sum, one) => sum + one, 0);
  return pieces / Math.max(1, area(quad));
}
