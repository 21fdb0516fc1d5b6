/** Plane projective maps, as in core/page/geometry.py: 3 × 3, row by row, acting on (x, y, 1). */

import type { Point, Size, Turn } from './turned';

export type Matrix = readonly [number, number, number, number, number, number, number, number, number];
/** Corners in reading order of the upright page. */
export type Quad = readonly [Point, Point, Point, Point];

export const IDENTITY: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export const shift = (dx: number, dy: number): Matrix => [1, 0, dx, 0, 1, dy, 0, 0, 1];
export const stretch = (x: number, y = x): Matrix => [x, 0, 0, 0, y, 0, 0, 0, 1];

/** One map after another: the first that is named is applied first. */
export function chain(...maps: readonly Matrix[]): Matrix {
  return maps.reduce((done, next) => product(next, done), IDENTITY);
}

function product(a: Matrix, b: Matrix): Matrix {
  const cell = (row: number, col: number) =>
    [0, 1, 2].reduce((sum, k) => sum + (a[3 * row + k] ?? 0) * (b[3 * k + col] ?? 0), 0);
  return [0, 1, 2].flatMap((row) => [0, 1, 2].map((col) => cell(row, col))) as unknown as Matrix;
}

export function inverse([a, b, c, d, e, f, g, h, i]: Matrix): Matrix {
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const cofactors = [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ];
  return cofactors.map((value) => value / det) as unknown as Matrix;
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
