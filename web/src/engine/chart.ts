/** A control chart in units of its field: where values, limits and tolerances lie. */

import type { QualityFigure } from '@/api/types';

export type Field = { wide: number; high: number };
type Range = { least: number; most: number };

/** What is shown of a figure's scale: its values and limits, and what is borne where that is not far, with a little room. */
export function rangeOf({ values, lower, upper, most, least }: QualityFigure): Range {
  const usual = [...values, ...[lower, upper].filter((one) => one !== null)];
  const [bottom, top] = [Math.min(...usual), Math.max(...usual)];
  const reach = FAR * (top - bottom);
  const near = [most, least].filter((one) => one !== null && one >= bottom - reach && one <= top + reach) as number[];
  const [low, high] = [Math.min(bottom, ...near), Math.max(top, ...near)];
  const room = (high - low || Math.abs(high) || 1) * 0.12;
  return { least: low - room, most: high + room };
}

/** So many times what values range over, what is borne may lie off them: further away it would press them flat. */
const FAR = 3;

/** Down from the upper edge of the field. */
export const downTo = (value: number, { least, most }: Range, { high }: Field): number =>
  ((most - value) / (most - least)) * high;

/** Across from its left edge: as many places as there are values, at least as many as say what is usual. */
export const acrossTo = (place: number, count: number, { wide }: Field): number =>
  ((place + 0.5) / Math.max(count, FEWEST)) * wide;

const FEWEST = 8;

/** Which values stray: beyond the limits, or not borne. */
export const strays = (value: number, { lower, upper, most, least }: QualityFigure): boolean =>
  (lower !== null && value < lower) ||
  (upper !== null && value > upper) ||
  (most !== null && value > most) ||
  (least !== null && value < least);
