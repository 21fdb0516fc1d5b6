/** What of a page shows a line: its words with some of the page around them. */

import type { Box } from '@/api/types';

/** Left, top, width, height in pixels of the clean page. */
export type Crop = readonly [number, number, number, number];

/** Heights of the line that are shown above and below it. */
const AROUND = 0.35;
/** Times as wide as high it is shown. */
const WIDE = 15;

/** The part of a page that shows a line: all of its width where that is not too much, or around the first of its marks. */
export function cropOf(line: Box, marks: readonly Box[], [width, height]: readonly [number, number]): Crop {
  const [left, top, right, bottom] = line;
  const high = Math.max(1, bottom - top);
  const y0 = Math.max(0, Math.round(top - AROUND * high));
  const y1 = Math.min(height, Math.round(bottom + AROUND * high));
  const most = WIDE * (y1 - y0);
  const margin = Math.round(AROUND * high);
  const [x0, x1] = [Math.max(0, left - margin), Math.min(width, right + margin)];
  if (x1 - x0 <= most) return [x0, y0, Math.min(width - x0, most), y1 - y0];
  const first = marks[0] ?? line;
  const from = Math.round(Math.max(x0, Math.min(x1 - most, first[0] - most / 3)));
  return [from, y0, most, y1 - y0];
}
