import { describe, expect, it } from 'vitest';
import { beginsOf, ruleOf, ruleWords } from './documents';

describe('where documents begin', () => {
  it('is chosen, and said, by what begins one', () => {
    for (const begins of ['separator sheets', 'blank pages', 'blank sheets', 'each page', 'pages'] as const)
      expect(beginsOf(ruleOf(begins, 4))).toBe(begins);
    expect(ruleOf('pages', 4).pages_a_document).toBe(4);
    expect(ruleOf('pages', 1).pages_a_document).toBe(2);
    expect(ruleOf('each page', 4).pages_a_document).toBe(1);
    expect(ruleWords(ruleOf('pages', 3))).toBe('every 3 pages');
    expect(ruleWords(ruleOf('each page', 3))).toBe('every page');
    expect(ruleWords(ruleOf('blank pages', 3))).toBe('separators and blank pages');
  });
});
