import { expect, it } from 'vitest';
import { doubtfulOf, expectedWords } from './text';

const figures = { pages: 2, words: 2505, doubtful: 1, expected: { rate: 4.72, low: 0.04, high: 12.31 } };

it('says how doubtful a text is', () => {
  expect(doubtfulOf(figures)).toBe('1 doubtful word of 2,505');
  expect(doubtfulOf({ ...figures, doubtful: 0 })).toBe('0 doubtful words of 2,505');
  expect(expectedWords(figures)).toBe('about 4.7 of 100 characters are wrong, 0.0 to 12');
  expect(expectedWords({ ...figures, expected: null })).toBe('nothing was read');
});
