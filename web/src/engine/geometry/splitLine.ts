/** The line between two pages that one image shows, from the top edge of the upright image to its bottom edge. */

import type { Quad } from './projective';
import { type Point, type Size, type Turn, turned, turnedSize, unturned } from './turned';

/** Where it meets the two edges, in pixels from the left of the upright image. */
export type SplitLine = { top: number; bottom: number };
export type LineEnd = 'top' | 'middle' | 'bottom';
/** Its ends in pixels of the image as captured, the upper one first. */
export type Ends = readonly [start: Point, end: Point];

const RIM = 0.02;

/** Down the middle of what is cut out, as it lies: where two pages meet if nothing else tells. `quad` is in output order. */
export function downTheMiddle([a, b, c, d]: Quad, captured: Size, turn: Turn): SplitLine {
  const middle = ([x1, y1]: Point, [x2, y2]: Point): Point => [(x1 + x2) / 2, (y1 + y2) / 2];
  return drawnOn([middle(a, b), middle(d, c)], captured, turn);
}

/** The line through two points of the image as captured; undefined where it runs across the page, not down it. */
export function lineThrough(ends: Ends, captured: Size, turn: Turn): SplitLine | undefined {
  const [, height] = turnedSize(captured, turn);
  const [[, y1], [, y2]] = ends.map((end) => turned(end, captured, turn)) as [Point, Point];
  return Math.abs(y2 - y1) < height / 2 ? undefined : drawnOn(ends, captured, turn);
}

/** The line through two points, drawn on to the edges. */
function drawnOn(ends: Ends, captured: Size, turn: Turn): SplitLine {
  const [width, height] = turnedSize(captured, turn);
  const [[x1, y1], [x2, y2]] = ends.map((end) => turned(end, captured, turn)) as [Point, Point];
  const at = (y: number) => inside(x1 + ((x2 - x1) * (y - y1)) / (y2 - y1), width);
  return { top: at(0), bottom: at(height) };
}

/** Its ends, in whole pixels. */
export function endsOf({ top, bottom }: SplitLine, captured: Size, turn: Turn): Ends {
  const [, height] = turnedSize(captured, turn);
  const whole = ([x, y]: Point): Point => [Math.round(x), Math.round(y)];
  return [whole(unturned([top, 0], captured, turn)), whole(unturned([bottom, height], captured, turn))];
}

/** The line with one end, or all of it, moved by a way in the image as captured; ends stay on their edges. */
export function movedLine(
  line: SplitLine,
  end: LineEnd,
  dx: number,
  dy: number,
  captured: Size,
  turn: Turn,
): SplitLine {
  const [width] = turnedSize(captured, turn);
  const [by] = turned([dx, dy], [0, 0], turn);
  return {
    top: end === 'bottom' ? line.top : inside(line.top + by, width),
    bottom: end === 'top' ? line.bottom : inside(line.bottom + by, width),
  };
}

const inside = (x: number, width: number) => Math.max(RIM * width, Math.min((1 - RIM) * width, x));
