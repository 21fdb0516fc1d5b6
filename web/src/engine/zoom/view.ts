/** What part of a page is looked at, and how large: one state for the original and the corrected page. */

import {
  chain,
  fromRectangle,
  inverse,
  type Matrix,
  mapped,
  type Quad,
  quarterTurn,
  shift,
  stretch,
} from '@/engine/geometry/projective';
import { type Point, type Size, type Turn, turned, turnedSize } from '@/engine/geometry/turned';

/** The place of the image as captured that is in the middle, in its pixels; and screen pixels for one of them. */
export type View = { x: number; y: number; scale: number };

/** What of a plan says where the page lies in its image. */
export type Lie = { quad: Quad; size: Size; turn: Turn; captured: Size };

const MARGIN = 18;
const CLOSEST = 12;
const FARTHEST = 0.02;

/** Screen pixels for one of an image that is wholly seen. */
export const fitting = ([width, height]: Size, [wide, high]: Size) =>
  Math.max(FARTHEST, Math.min((wide - 2 * MARGIN) / width, (high - 2 * MARGIN) / height));

/** The whole image as captured. */
export function wholeImage({ captured, turn }: Lie, pane: Size): View {
  return { x: captured[0] / 2, y: captured[1] / 2, scale: fitting(turnedSize(captured, turn), pane) };
}

/** The whole corrected page. */
export function wholePage(lie: Lie, pane: Size): View {
  const [x, y] = mapped(fromRectangle(lie.size, lie.quad), [lie.size[0] / 2, lie.size[1] / 2]);
  return { x, y, scale: fitting(lie.size, pane) * pagePixels(lie) };
}

/** Closer by a factor; the place under a point of the screen stays there. */
export function closer(view: View, factor: number, toScreen: Matrix, at: Point): View {
  const scale = Math.max(FARTHEST, Math.min(CLOSEST, view.scale * factor));
  const [x, y] = mapped(inverse(toScreen), at);
  const share = view.scale / scale;
  return { scale, x: x + (view.x - x) * share, y: y + (view.y - y) * share };
}

/** Moved by so many pixels of the screen. */
export function panned(view: View, toScreen: Matrix, [wide, high]: Size, dx: number, dy: number): View {
  const [x, y] = mapped(inverse(toScreen), [wide / 2 - dx, high / 2 - dy]);
  return { ...view, x, y };
}

/** Pixels of the corrected page for one of the image as captured. */
export function pagePixels({ quad: [a, b], size }: Lie): number {
  return size[0] / Math.max(1, Math.hypot(b[0] - a[0], b[1] - a[1]));
}

/** From pixels of the image as captured to those of the corrected page. */
export const ontoPage = ({ quad, size }: Lie): Matrix => inverse(fromRectangle(size, quad));

/** From pixels of the corrected page to the screen. */
export function pageToScreen({ x, y, scale }: View, [wide, high]: Size, lie: Lie): Matrix {
  const [px, py] = mapped(ontoPage(lie), [x, y]);
  return chain(shift(-px, -py), stretch(scale / pagePixels(lie)), shift(wide / 2, high / 2));
}

/** From pixels of the image as captured to the screen, lying exactly as the corrected page does. */
export function overlaid(view: View, pane: Size, lie: Lie): Matrix {
  return chain(ontoPage(lie), pageToScreen(view, pane, lie));
}

/** From pixels of the image as captured to the screen: upright, but otherwise as it is. */
export function asCaptured({ x, y, scale }: View, [wide, high]: Size, { captured, turn }: Lie): Matrix {
  const [mx, my] = turned([x, y], captured, turn);
  return chain(quarterTurn(turn, captured), shift(-mx, -my), stretch(scale), shift(wide / 2, high / 2));
}

/** The part of an image that can be seen through a pane, in whole pixels of the image; nothing where it is beside it. */
export function seen(
  toScreen: Matrix,
  [wide, high]: Size,
  [width, height]: Size,
): [number, number, number, number] | undefined {
  const back = inverse(toScreen);
  const corners = (
    [
      [0, 0],
      [wide, 0],
      [wide, high],
      [0, high],
    ] as const
  ).map((point) => mapped(back, point));
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
