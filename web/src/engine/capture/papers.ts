/** Paper sizes as they are offered for a station: those that it can take, and what needs no size. */

import type { PaperSize } from '@/api/types';

/** Nothing smaller is worth a name on the list: a card is captured as large as it is. */
const LEAST_MM = 100;
const ROOM_MM = 1;

export type Bed = { width_mm: number; height_mm: number };

/** Width and height in mm; null takes each sheet as large as it is. */
export function sizeOf(name: string, papers: readonly PaperSize[]): [number, number] | null {
  const found = papers.find((paper) => paper.name === name);
  return found ? [found.width_mm, found.height_mm] : null;
}

export function papersFor(papers: readonly PaperSize[], bed: Bed | null | undefined, source: 'platen' | 'feeder') {
  const fitting = papers.filter(
    ({ width_mm, height_mm }) =>
      width_mm >= LEAST_MM && (!bed || (width_mm <= bed.width_mm + ROOM_MM && height_mm <= bed.height_mm + ROOM_MM)),
  );
  return [
    { value: 'each', label: source === 'platen' ? 'the whole glass' : 'each sheet, as large as it is' },
    ...fitting.map(({ name, width_mm, height_mm }) => ({
      value: name,
      label: `${name}, ${Math.round(width_mm)} × ${Math.round(height_mm)} mm`,
    })),
    ...(source === 'feeder' ? [{ value: 'long', label: 'long strips, no end set' }] : []),
  ];
}
