/** Plane projective maps, as in core/page/geometry.py: 3 × 3, row by row, acting on (x, y, 1). */

import type { Point, Size, Turn } from './turned';

export type Matrix = readonly [number, number, number, number, number, number, number, number, number];
/** Corners in reading order of the upright page. */
export type Quad = readonly [Point, Point, Point, Point];

/** Four corners as they come from elsewhere. Throws where they are not four points. */
export function asQuad(points: readonly (readonly number[])[]): Quad {
  const [a, b, c, d] = points.map(([x, y]): Point => {
    if (x === undefined || y === undefined) throw new Error('a corner has two coordinates');
    return [x, y];
  });
  if (!a || !b || !c || !d || points.length !== 4) throw new Error('a page has four corners');
  return [a, b, c, d];
}

export const IDENTITY: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export const shift = (dx: number, dy: number): Matrix => [1, 0, dx, 0, 1, dy, 0, 0, 1];
export const stretch = (x: number, y = x): Matrix => [x, 0, 0, 0, y, 0, 0, 0, 1];

/** One map after another: the first that is named is applied first. */
export function chain(...maps: readonly Matrix[]): Matrix {
  return maps.reduce((done, next) => product(next, done), IDENTITY);
}

function product(a: Matrix, b: Matrix): Matrix {
  const [a0, a1, a2, a3, a4, a5, a6, a7, a8] = a;
  const [b0, b1, b2, b3, b4, b5, b6, b7, b8] = b;
  return [
    a0 * b0 + a1 * b3 + a2 * b6,
    a0 * b1 + a1 * b4 + a2 * b7,
    a0 * b2 + a1 * b5 + a2 * b8,
    a3 * b0 + a4 * b3 + a5 * b6,
    a3 * b1 + a4 * b4 + a5 * b7,
    a3 * b2 + a4 * b5 + a5 * b8,
    a6 * b0 + a7 * b3 + a8 * b6,
    a6 * b1 + a7 * b4 + a8 * b7,
    a6 * b2 + a7 * b5 + a8 * b8,
  ];
}

export function inverse([a, b, c, d, e, f, g, h, i]: Matrix): Matrix {
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [
    (e * i - f * h) / det,
    (c * h - b * i) / det,
    (b * f - c * e) / det,
    (f * g - d * i) / det,
    (a * i - c * g) / det,
    (c * d - a * f) / det,
    (d * h - e * g) / det,
    (b * g - a * h) / det,
    (a * e - b * d) / det,
  ];
}

export function mapped([a, b, c, d, e, f, g, h, i]: Matrix, [x, y]: Point): Point {
  const w = g * x + h * y + i;
  return [(a * x + b * y + c) / w, (d * x + e * y + f) / w];
}

/**
 * The map that takes the rectangle [0, width] × [0, height] to a quadrilateral.
 * Source: P. Heckbert, Fundamentals of texture mapping and image warping (1989), 2.2.3.
 */
export function fromRectangle([width, height]: Size, [p, q, r, s]: Quad): Matrix {
  const sum = (axis: 0 | 1) => p[axis] - q[axis] + r[axis] - s[axis];
  const [sx, sy] = [sum(0), sum(1)];
  const [dx1, dx2, dy1, dy2] = [q[0] - r[0], s[0] - r[0], q[1] - r[1], s[1] - r[1]];
  const det = dx1 * dy2 - dx2 * dy1;
  const g = (sx * dy2 - dx2 * sy) / det;
  const h = (dx1 * sy - sx * dy1) / det;
  const square: Matrix = [
    q[0] - p[0] + g * q[0],
    s[0] - p[0] + h * s[0],
    p[0],
    q[1] - p[1] + g * q[1],
    s[1] - p[1] + h * s[1],
    p[1],
    g,
    h,
    1,
  ];
  return chain(stretch(1 / width, 1 / height), square);
}

/** The clockwise quarter turn of an image of the given size into the frame of the turned image. */
export function quarterTurn(turn: Turn, [width, height]: Size): Matrix {
  switch (turn) {
    case 0:
      return IDENTITY;
    case 90:
      return [0, -1, height, 1, 0, 0, 0, 0, 1];
    case 180:
      return [-1, 0, width, 0, -1, height, 0, 0, 1];
    case 270:
      return [0, 1, 0, -1, 0, width, 0, 0, 1];
  }
}

/** As a CSS transform of an element whose origin is its top-left corner. */
export function cssTransform([a, b, c, d, e, f, g, h, i]: Matrix): string {
  return `matrix3d(${[a, d, 0, g, b, e, 0, h, 0, 0, 1, 0, c, f, 0, i].join(',')})`;
}
