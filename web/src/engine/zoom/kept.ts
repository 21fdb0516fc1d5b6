/** How closely a page is looked at, said so that it holds for the next page too, whatever its size. */

import type { Size } from '@/engine/geometry/turned';
import type { View } from './view';

/** The middle of what is seen as shares of the image's width and height, and screen pixels for one of its pixels. */
export type Close = { across: number; down: number; scale: number };

export const closeOf = ({ x, y, scale }: View, [width, height]: Size): Close => ({
  across: x / width,
  down: y / height,
  scale,
});

export const viewOf = ({ across, down, scale }: Close, [width, height]: Size): View => ({
  x: across * width,
  y: down * height,
  scale,
});
