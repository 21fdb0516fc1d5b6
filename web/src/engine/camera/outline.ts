/** Where the page lies in a frame: a port of core's `live_outline`, which says why; held to it by a test. */

import type { Quad } from '@/engine/geometry/projective';
import type { Point } from '@/engine/geometry/turned';
import { HALF, piecesOf, STROKE_PX } from './pieces';
import { closed, type Plane, type Planes, sampled, stepsOf } from './plane';

export type Outline = {
  /** Clockwise as seen from the corner nearest to the frame’s top left, in its pixels. */
  readonly quad: Quad;
  /** The share of the weakest side that is seen. */
  readonly confidence: number;
};
export type Found = {
  readonly outline: Outline | undefined;
  /** Sides of the frame (0 left, 1 top, 2 right, 3 bottom) that something in its middle runs out of. */
  readonly runsOut: readonly number[];
};

/** The longer side of the reduction that is looked at. */
export const LONGEST_PX = 400;
const NARROWEST_PX = 40;
const [LEAST, MOST] = [0.06, 0.97];
const SEEN = 0.4;
const [FULL, HOLLOW] = [0.86, 0.6];
const REACHES = [0.008, 0.02] as const;
const [VOTE, AGREE_PX] = [0.15, 3];
const STAYS = 2;
const [PLAIN, PLAIN_VOTES] = [0.95, 4];
const RUNS_OUT = 0.08;
const STEP_SEEN = 1.8;
const SAMPLES = 240;
const AGREE_LINE_PX = 1.5;

export function liveOutline(planes: Planes, before?: Quad): Found {
  if (Math.min(planes[0].width, planes[0].height) < NARROWEST_PX) return { outline: undefined, runsOut: [] };
  const steps = stepsOf(planes.map((plane) => closed(plane, STROKE_PX)));
  const found: Outline[] = [];
  let best: Outline | undefined;
  const left = new Set<number>();
  for (const pieces of piecesOf(planes, steps)) {
    for (const half of pieces.map(around)) {
      const outline = half?.map(([x, y]): Point => [x * HALF, y * HALF]);
      if (outline) found.push(...REACHES.flatMap((reach) => settledOutline(steps, outline, reach) ?? []));
    }
    const weights = found.map((one) => weight(one, found, before));
    best = found[weights.indexOf(Math.max(...weights))];
    for (const side of pieces.flatMap(sidesLeft)) left.add(side);
    if (best && best.confidence >= PLAIN && votes(best, found) >= PLAIN_VOTES) break;
  }
  return { outline: best, runsOut: [...left].sort() };
}

function weight(one: Outline, found: readonly Outline[], before: Quad | undefined): number {
  const stays = before && apart(one.quad, before) <= AGREE_PX ? STAYS : 0;
  return area(one.quad) * one.confidence ** 2 * (1 + VOTE * (votes(one, found) + stays));
}

const votes = (one: Outline, found: readonly Outline[]) =>
  found.filter((other) => apart(one.quad, other.quad) <= AGREE_PX).length;

/** How far the corners of two outlines are apart at the most along either axis, whichever is called the first. */
export function apart(one: Quad, other: Quad): number {
  const off = (turn: number) =>
    Math.max(
      ...one.map(([x, y], at) => {
        const [ox, oy] = other[(at + turn) % 4] as Point;
        return Math.max(Math.abs(x - ox), Math.abs(y - oy));
      }),
    );
  return Math.min(...[0, 1, 2, 3].map(off));
}

export function area(points: readonly Point[]): number {
  const twice = points.reduce((sum, [x, y], at) => {
    const [nx, ny] = points[(at + 1) % points.length] as Point;
    return sum + x * ny - y * nx;
  }, 0);
  return Math.abs(twice) / 2;
}

function sidesLeft({ data, width, height }: Plane): number[] {
  let [left, top, right, bottom] = [0, 0, 0, 0];
  for (let y = 0; y < height; y++) {
    left += data[y * width] as number;
    right += data[y * width + width - 1] as number;
  }
  for (let x = 0; x < width; x++) {
    top += data[x] as number;
    bottom += data[(height - 1) * width + x] as number;
  }
  const shares = [left / height, top / width, right / height, bottom / width];
  const sides = [0, 1, 2, 3].filter((side) => (shares[side] as number) >= RUNS_OUT);
  return sides.length <= 2 ? sides : []; // rather the table itself
}

/** Four corners around a piece; undefined where it is no four-sided thing. */
function around({ data, width, height }: Plane): Point[] | undefined {
  const ends: Point[] = [];
  let filled = 0;
  for (let y = 0; y < height; y++) {
    let [first, last] = [-1, -1];
    for (let x = 0; x < width; x++) {
      if (!data[y * width + x]) continue;
      if (first < 0) first = x;
      last = x + 1;
      filled += 1;
    }
    if (first >= 0) for (const x of [first, last]) ends.push([x, y], [x, y + 1]);
  }
  const hull = convexHull(ends);
  const shape = fourSides(hull);
  if (!shape) return undefined;
  const [inside, whole] = [area(hull), area(shape)];
  const full = inside >= FULL * whole && filled >= HOLLOW * inside;
  return full && whole > LEAST * data.length ? shape : undefined;
}

/** Clockwise as seen (A. Andrew, 1979). */
function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const chain = (list: readonly Point[]) => {
    const out: Point[] = [];
    for (const point of list) {
      while (out.length >= 2 && cross(out[out.length - 2] as Point, out[out.length - 1] as Point, point) <= 0)
        out.pop();
      out.push(point);
    }
    out.pop();
    return out;
  };
  return [...chain(sorted), ...chain(sorted.reverse())];
}

const cross = (o: Point, a: Point, b: Point) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

/** What is left of a hull when, again and again, the side is dropped that costs the least area. */
function fourSides(hull: readonly Point[]): Point[] | undefined {
  const points = [...hull];
  while (points.length > 4) {
    let best: { cost: number; at: number; meet: Point } | undefined;
    const n = points.length;
    for (let at = 0; at < n; at++) {
      const [before, start, end, after] = [at - 2, at - 1, at, at + 1].map((one) => points[(one + n) % n]) as [
        Point,
        Point,
        Point,
        Point,
      ];
      const along = [start[0] - before[0], start[1] - before[1]] as const;
      const back = [end[0] - after[0], end[1] - after[1]] as const;
      const det = along[0] * back[1] - along[1] * back[0];
      const share =
        Math.abs(det) > 1e-9 ? ((after[0] - before[0]) * back[1] - (after[1] - before[1]) * back[0]) / det : 0;
      if (share <= 1) continue; // the neighbours go apart
      const meet: Point = [before[0] + share * along[0], before[1] + share * along[1]];
      const cost = Math.abs(cross(start, end, meet)) / 2;
      if (!best || cost < best.cost) best = { cost, at, meet };
    }
    if (!best) return undefined;
    points[best.at] = best.meet;
    points.splice((best.at - 1 + n) % n, 1);
  }
  return points.length === 4 ? points : undefined;
}

type Line = { point: Point; along: Point };

function settledOutline(steps: Plane<Float32Array>, outline: readonly Point[], reach: number): Outline | undefined {
  const sides = outline.map((start, at) => settled(steps, start, outline[(at + 1) % 4] as Point, reach));
  const corners = sides.map(({ line }, at) => crossing((sides[(at + 3) % 4] as Side).line, line));
  if (corners.some((corner) => !corner)) return undefined;
  const quad = corners as unknown as Quad;
  const { width, height } = steps;
  const confidence = Math.round(Math.min(...sides.map(({ seen }) => seen)) * 1000) / 1000;
  const within = quad.every(([x, y]) => x >= -2 && y >= -2 && x <= width + 2 && y <= height + 2);
  const turns = quad.map((corner, at) => cross(quad[(at + 3) % 4] as Point, corner, quad[(at + 1) % 4] as Point) > 0);
  const convex = turns.every(Boolean) || !turns.some(Boolean);
  const share = area(quad) / (width * height);
  if (confidence < SEEN || !within || !convex || share <= LEAST || share >= MOST) return undefined;
  const kept = quad.map(([x, y]) => [Math.min(Math.max(x, 0), width), Math.min(Math.max(y, 0), height)]);
  return { quad: fromTopLeft(kept as unknown as Quad), confidence };
}

function fromTopLeft(corners: Quad): Quad {
  const sums = corners.map(([x, y]) => x + y);
  const first = sums.indexOf(Math.min(...sums));
  return [0, 1, 2, 3].map((at) => corners[(first + at) % 4]) as unknown as Quad;
}

type Side = { line: Line; seen: number };

/** A side moved to where the step is steepest, and the share of it that is seen there. */
function settled(steps: Plane<Float32Array>, start: Point, end: Point, within: number): Side {
  const length = Math.max(1e-6, Math.hypot(end[0] - start[0], end[1] - start[1]));
  const along: Point = [(end[0] - start[0]) / length, (end[1] - start[1]) / length];
  const across: Point = [-along[1], along[0]];
  const reach = Math.max(4, Math.round(within * Math.max(steps.width, steps.height)));
  const where: number[] = [];
  const offset: number[] = [];
  const at = (share: number): Point => {
    const on = 0.06 + 0.88 * share;
    return [start[0] + on * (end[0] - start[0]), start[1] + on * (end[1] - start[1])];
  };
  for (let sample = 0; sample < SAMPLES; sample++) {
    const share = sample / (SAMPLES - 1);
    const [x, y] = at(share);
    let [best, most] = [0, -1];
    for (let off = -reach; off <= reach; off += 0.5) {
      const step = sampled(steps, x + off * across[0] - 0.5, y + off * across[1] - 0.5);
      if (step > most) [best, most] = [off, step];
    }
    if (most < STEP_SEEN) continue;
    where.push(share);
    offset.push(best);
  }
  if (where.length < Math.floor(SAMPLES / 6)) return { line: { point: start, along }, seen: 0 };
  const { base, slope } = trimmedLine(where, offset);
  const agreeing = offset.filter((one, i) => Math.abs(one - base - slope * (where[i] as number)) <= 2 * AGREE_LINE_PX);
  const moved = (point: Point, by: number): Point => [point[0] + by * across[0], point[1] + by * across[1]];
  const [first, last] = [moved(at(0), base), moved(at(1), base + slope)];
  const far = Math.max(1e-6, Math.hypot(last[0] - first[0], last[1] - first[1]));
  const line = { point: first, along: [(last[0] - first[0]) / far, (last[1] - first[1]) / far] as Point };
  return { line, seen: agreeing.length / SAMPLES };
}

/** Least squares, again and again without what lies far off (P. Rousseeuw and A. Leroy, 1987). */
function trimmedLine(where: readonly number[], offset: readonly number[]): { base: number; slope: number } {
  const middle = median(offset);
  const spread = Math.max(4, 2 * median(offset.map((one) => Math.abs(one - middle))));
  let keep = offset.map((one) => Math.abs(one - middle) <= spread);
  let [base, slope] = [middle, 0];
  for (let round = 0; round < 6; round++) {
    let [n, sx, sy, sxx, sxy] = [0, 0, 0, 0, 0];
    keep.forEach((kept, at) => {
      if (!kept) return;
      const [x, y] = [where[at] as number, offset[at] as number];
      n += 1;
      sx += x;
      sy += y;
      sxx += x * x;
      sxy += x * y;
    });
    if (n < 8) break;
    const det = n * sxx - sx * sx;
    slope = (n * sxy - sx * sy) / det;
    base = (sy - slope * sx) / n;
    const off = offset.map((one, at) => Math.abs(one - base - slope * (where[at] as number)));
    const limit = Math.max(AGREE_LINE_PX, 1.5 * median(off));
    keep = off.map((one) => one <= limit);
  }
  return { base, slope };
}

export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 ? (sorted[half] as number) : ((sorted[half - 1] as number) + (sorted[half] as number)) / 2;
}

/** Where two lines cross; undefined where they hardly do. */
function crossing(one: Line, other: Line): Point | undefined {
  const [p, d, q, e] = [one.point, one.along, other.point, other.along];
  const det = d[0] * e[1] - d[1] * e[0];
  if (Math.abs(det) < 0.2) return undefined;
  const share = ((q[0] - p[0]) * e[1] - (q[1] - p[1]) * e[0]) / det;
  return [p[0] + share * d[0], p[1] + share * d[1]];
}
