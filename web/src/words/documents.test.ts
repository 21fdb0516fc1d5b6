import { describe, expect, it } from 'vitest';
import { beginsOf, ruleOf } from './documents';

describe('where documents begin', () => {
  it('is chosen, and said, by what begins one', () => {
    for (const begins of ['separator sheets', 'blank pages', 'blank sheets', 'each page', 'pages'] as const)
      expect(beginsOf(ruleOf(begins, 4))).toBe(begins);
    expect(ruleOf('pages', 4).pages_a_document).toBe(4);
    expect(ruleOf('pages', 1).pages_a_document).toBe(2);
    expect(ruleOf('each page', 4).pages_a_document).toBe(1);
  });
});
