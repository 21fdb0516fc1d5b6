import { describe, expect, it } from 'vitest';
import { describedWords } from './describing';

describe('of what a file says something new', () => {
  it.each([
    [[true], 'the stack'],
    [[false], '1 document'],
    [[true, false, false], 'the stack and 2 documents'],
    [[], ''],
  ])('%j: %s', (lines, words) => {
    expect(describedWords(lines.map((whole) => ({ whole })))).toBe(words);
  });
});
