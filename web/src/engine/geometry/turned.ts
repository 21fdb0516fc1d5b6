/** Quarter turns: from a picture as it is shown to the image as captured. The same words as in core/page/geometry.py. */

export type Turn = 0 | 90 | 180 | 270;
export type Point = readonly [x: number, y: number];
export type Size = readonly [width: number, height: number];

export function turnedSize([width, height]: Size, turn: Turn): Size {
  return turn === 90 || turn === 270 ? [height, width] : [width, height];
}

/** A place in the image turned clockwise, in the image as captured; `size` is that of the image as captured. */
export function unturned([x, y]: Point, size: Size, turn: Turn): Point {
  const [width, height] = size;
  switch (turn) {
    case 0:
      return [x, y];
    case 90:
      return [y, height - x];
    case 180:
      return [width - x, height - y];
    case 270:
      return [width - y, x];
  }
}

/** A place in the image as captured, in the image turned clockwise. */
export function turned([x, y]: Point, [width, height]: Size, turn: Turn): Point {
  switch (turn) {
    case 0:
      return [x, y];
    case 90:
      return [height - y, x];
    case 180:
      return [width - x, height - y];
    case 270:
      return [y, width - x];
  }
}
