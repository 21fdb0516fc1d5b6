/** Where the papers of a stack are, and what becomes of them, in words. */

import type { Original } from '@/api/types';
import type { Asked } from '@/engine/capture/slip';

export const ORIGINAL_WORDS: Record<Asked, string> = {
  title: 'Title',
  year: 'Year',
  box: 'Box',
  shelf: 'Shelf',
  position: 'Place in the box',
  after: 'What becomes of the paper',
};

export const AFTER_WORDS: Record<Original['after'], string> = {
  '': 'Nobody has said',
  back: 'Back to its place',
  kept: 'Kept until',
  destroyed: 'Destroyed after sign-off',
};

const DAY = { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' } as const;
export const dayWords = (day: string) => new Date(day).toLocaleDateString('en-GB', DAY);

/** Where they are, as one would say it. */
export const placeWords = ({ box, shelf, position }: Original) =>
  [box && `box ${box}`, shelf && `shelf ${shelf}`, position].filter(Boolean).join(', ');

/** What becomes of them. */
export function afterWords({ after, until, by }: Original): string {
  if (!after) return '';
  const what = after === 'kept' && until ? `kept until ${dayWords(until)}` : AFTER_WORDS[after].toLowerCase();
  const said = after === 'kept' && !until ? 'kept' : what;
  return by ? `${said}, by ${by}` : said;
}

/** Whether anything is said. */
export const isSaid = (original: Original) => lineOf(original) !== '';

/** All of it in a line. */
export const originalWords = (original: Original) => lineOf(original) || 'nothing is said';

const lineOf = (original: Original) =>
  [[original.year, placeWords(original)].filter(Boolean).join(', '), afterWords(original)].filter(Boolean).join('; ');
