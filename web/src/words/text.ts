/** The text of pages in words: how many words are doubtful, how many characters may be wrong. */

import type { TextFigures } from '@/api/types';
import { count, counted, figure } from './figures';

/** How doubtful a text is, as a heading. */
export function doubtfulOf({ doubtful, words }: TextFigures): string {
  return `${counted(doubtful, 'doubtful word')} of ${count(words)}`;
}

/** How many characters are expected to be wrong, with the interval. */
export function expectedWords({ expected }: TextFigures): string {
  if (!expected) return 'nothing was read';
  const { rate, low, high } = expected;
  return `about ${rateWords(rate)} of 100 characters are wrong, ${rateWords(low)} to ${rateWords(high)}`;
}

const rateWords = (rate: number): string => figure(rate, rate < 9.95 ? 1 : 0);
