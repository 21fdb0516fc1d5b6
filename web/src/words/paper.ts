/** How paper goes into a source, in words. */

import type { PaperPath } from '@/api/types';

export type PaperSource = 'platen' | 'feeder';
type Options<T extends string> = readonly { value: T; label: string }[];

export const FACES: Options<PaperPath['face']> = [
  { value: 'up', label: 'Face up' },
  { value: 'down', label: 'Face down' },
];

export const EDGES: Options<PaperPath['edge']> = [
  { value: 'top', label: 'Top edge' },
  { value: 'bottom', label: 'Bottom edge' },
  { value: 'left', label: 'Left edge' },
  { value: 'right', label: 'Right edge' },
];

export const PLACES: Record<PaperSource, Options<PaperPath['place']>> = {
  feeder: [
    { value: 'left', label: 'At the left' },
    { value: 'middle', label: 'In the middle' },
    { value: 'right', label: 'At the right' },
  ],
  platen: [
    { value: 'back left', label: 'Back left' },
    { value: 'back right', label: 'Back right' },
    { value: 'front left', label: 'Front left' },
    { value: 'front right', label: 'Front right' },
  ],
};

/** What to do with the paper, as one sentence. */
export function paperWords(source: PaperSource, { face, edge, place }: PaperPath): string {
  if (source === 'platen')
    return `Lay the sheet face ${face}, its ${edge} edge to the back, its corner at the mark at the ${place}.`;
  const where = place === 'middle' ? 'in the middle' : `at the ${place}`;
  return `Lay sheets in face ${face}, ${edge} edge first, the guides snug against them ${where}.`;
}
