/** A page's four corners in its image, and what hands do to them. The words of core/page/geometry.py and core/plan/outline.py. */

import { asQuad, type Quad } from './projective';
import type { Point, Size, Turn } from './turned';

export const CORNERS = ['top left', 'top right', 'bottom right', 'bottom left'] as const;
export const SIDES = ['top', 'right', 'bottom', 'left'] as const;
/** Corners 0 to 3, then sides 4 to 7: top, right, bottom, left. */
export type Handle = 0 | 1 | 2 | 3 | 4 | 5 | 6 | 7;
export type Side = 4 | 5 | 6 | 7;
export const HANDLES: readonly Handle[] = [0, 4, 1, 5, 2, 6, 3, 7];

export const handleName = (handle: Handle): string =>
  handle < 4 ? `${CORNERS[handle as 0]} corner` : `${SIDES[(handle - 4) as 0]} side`;

/** The two corners at the ends of a side, or the one of a corner. */
const ends = (handle: Handle): number[] => (handle < 4 ? [handle] : [handle - 4, (handle - 3) % 4]);

const rounded = (value: number) => Math.round(value * 1000) / 1000;
const quad = (points: readonly Point[]): Quad => asQuad(points.map(([x, y]) => [rounded(x), rounded(y)]));

/** Where a handle is. */
export function placeOf(corners: Quad, handle: Handle): Point {
  const at = ends(handle).map((index) => corners[index] as Point);
  return [at.reduce((sum, [x]) => sum + x, 0) / at.length, at.reduce((sum, [, y]) => sum + y, 0) / at.length];
}

/**
 * A corner goes where it is taken; a side only across itself, its ends running along the sides that meet it, so that the
 * page keeps its shape. Nothing leaves the image by more than a tenth of it.
 */
export function dragged(corners: Quad, handle: Handle, dx: number, dy: number, [width, height]: Size): Quad {
  const limit = ([x, y]: Point): Point => [
    Math.max(-0.1 * width, Math.min(1.1 * width, x)),
    Math.max(-0.1 * height, Math.min(1.1 * height, y)),
  ];
  const points = [...corners] as Point[];
  if (handle < 4) {
    const [x, y] = placeOf(corners, handle);
    points[handle] = limit([x + dx, y + dy]);
    return quad(points);
  }
  const [first, last] = ends(handle) as [number, number];
  const [a, b] = [corners[first] as Point, corners[last] as Point];
  const normal = unit([-(b[1] - a[1]), b[0] - a[0]]);
  const away = dx * normal[0] + dy * normal[1];
  const neighbours = [(first + 3) % 4, (last + 1) % 4] as const;
  [first, last].forEach((index, end) => {
    const here = corners[index] as Point;
    const along = unit(minus(here, corners[neighbours[end] ?? 0] as Point));
    // As far along its own side that it comes to lie that far across.
    const share = away / Math.max(0.2, Math.abs(along[0] * normal[0] + along[1] * normal[1]));
    const sign = Math.sign(along[0] * normal[0] + along[1] * normal[1]) || 1;
    points[index] = limit([here[0] + along[0] * share * sign, here[1] + along[1] * share * sign]);
  });
  return quad(points);
}

/** `plain` with one of its sides moved out to that side of `page` and `beyond` pixels further: nothing is cleared there. */
export function opened(plain: Quad, page: Quad, side: Side, captured: Size, beyond: number): Quad {
  const to = placeOf(page, side);
  const out = unit(minus(to, [captured[0] / 2, captured[1] / 2]));
  const [dx, dy] = minus(to, placeOf(plain, side));
  return dragged(plain, side, dx + out[0] * beyond, dy + out[1] * beyond, captured);
}

/** Turned clockwise about the middle. */
export function rotated(corners: Quad, degrees: number): Quad {
  const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const [mx, my] = [0, 1].map((axis) => corners.reduce((sum, point) => sum + (point[axis] ?? 0), 0) / 4) as [
    number,
    number,
  ];
  return quad(corners.map(([x, y]) => [mx + c * (x - mx) - s * (y - my), my + s * (x - mx) + c * (y - my)] as const));
}

/** From the output page's order to that of the image as captured, and back with a negative turn. */
export function reordered(corners: Quad, turn: Turn | -90 | -180 | -270): Quad {
  const by = (((turn / 90) % 4) + 4) % 4;
  return asQuad(corners.map((_, index) => corners[(index + by) % 4] ?? []));
}

/** Whether four corners enclose a page: none of them lies inside the others, and they run round one way. */
export function isPage(corners: Quad): boolean {
  return corners.every((here, index) => {
    const [next, after] = [corners[(index + 1) % 4] as Point, corners[(index + 2) % 4] as Point];
    return (next[0] - here[0]) * (after[1] - next[1]) - (next[1] - here[1]) * (after[0] - next[0]) > 1;
  });
}

/** Tilt in degrees of a line drawn along the text, or down it, −45 to 45; positive where it falls to the right. */
export function tiltOf([x1, y1]: Point, [x2, y2]: Point): number {
  const angle = (Math.atan2(y2 - y1, x2 - x1) * 180) / Math.PI;
  return ((((angle + 45) % 90) + 90) % 90) - 45;
}

const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];

function unit([x, y]: Point): Point {
  const length = Math.hypot(x, y) || 1;
  return [x / length, y / length];
}
