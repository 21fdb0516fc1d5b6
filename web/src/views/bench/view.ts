/** What part of a page is looked at, and how large: one state for the original and the corrected page. */

import { chain, fromRectangle, inverse, type Matrix, mapped, type Quad, quarterTurn, shift, stretch } from '../../geometry/projective';
import { type Point, type Size, type Turn, turned } from '../../geometry/turned';

/** The place of the corrected page that is in the middle, in its pixels; and screen pixels for one of them. */
export type View = { x: number; y: number; scale: number };

/** What of a plan says where the page lies in its image. */
export type Lie = { quad: Quad; size: Size; turn: Turn; captured: Size };

const MARGIN = 18;
const CLOSEST = 12;
const FARTHEST = 0.02;

/** The whole page. */
export function whole([width, height]: Size, [wide, high]: Size): View {
  const scale = Math.min((wide - 2 * MARGIN) / width, (high - 2 * MARGIN) / height);
  return { x: width / 2, y: height / 2, scale: Math.max(FARTHEST, scale) };
}

/** Closer by a factor, the place under a point of the screen staying there. */
export function closer(view: View, factor: number, pane: Size, at: Point = [pane[0] / 2, pane[1] / 2]): View {
  const scale = Math.max(FARTHEST, Math.min(CLOSEST, view.scale * factor));
  const [dx, dy] = [at[0] - pane[0] / 2, at[1] - pane[1] / 2];
  return { scale, x: view.x + dx / view.scale - dx / scale, y: view.y + dy / view.scale - dy / scale };
}

/** Moved by so many pixels of the screen. */
export const panned = (view: View, dx: number, dy: number): View => ({
  ...view,
  x: view.x - dx / view.scale,
  y: view.y - dy / view.scale,
});

/** From pixels of the corrected page to the screen. */
export function pageToScreen({ x, y, scale }: View, [wide, high]: Size): Matrix {
  return chain(shift(-x, -y), stretch(scale), shift(wide / 2, high / 2));
}

/** From pixels of the image as captured to those of the corrected page. */
export const ontoPage = ({ quad, size }: Lie): Matrix => inverse(fromRectangle(size, quad));

/** From pixels of the image as captured to the screen, lying exactly as the corrected page does. */
export function overlaid(view: View, pane: Size, lie: Lie): Matrix {
  return chain(ontoPage(lie), pageToScreen(view, pane));
}

/** From pixels of the image as captured to the screen: upright but otherwise as it is, the same place in the middle. */
export function asCaptured(view: View, pane: Size, lie: Lie): Matrix {
  const middle = turned(mapped(fromRectangle(lie.size, lie.quad), [view.x, view.y]), lie.captured, lie.turn);
  const [a, b] = lie.quad;
  const ratio = lie.size[0] / Math.max(1, Math.hypot(b[0] - a[0], b[1] - a[1]));
  return chain(
    quarterTurn(lie.turn, lie.captured),
    shift(-middle[0], -middle[1]),
    stretch(view.scale * ratio),
    shift(pane[0] / 2, pane[1] / 2),
  );
}

/** The part of an image that can be seen through a pane, in whole pixels of the image; nothing where it is beside it. */
export function seen(toScreen: Matrix, [wide, high]: Size, [width, height]: Size): [number, number, number, number] | undefined {
  const back = inverse(toScreen);
  const corners = ([[0, 0], [wide, 0], [wide, high], [0, high]] as const).map((point) => mapped(back, point));
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const left = Math.max(0, Math.floor(Math.min(...xs)));
  const top = Math.max(0, Math.floor(Math.min(...ys)));
  const right = Math.min(width, Math.ceil(Math.max(...xs)));
  const bottom = Math.min(height, Math.ceil(Math.max(...ys)));
  return right > left && bottom > top ? [left, top, right - left, bottom - top] : undefined;
}

/** Screen pixels for one pixel of an image, in the middle of what is shown. */
export function magnification(toScreen: Matrix, [width, height]: Size): number {
  const [a, b] = [mapped(toScreen, [width / 2, height / 2]), mapped(toScreen, [width / 2 + 1, height / 2])];
  return Math.hypot(b[0] - a[0], b[1] - a[1]);
}
