import { describe, expect, it } from 'vitest';
import { namedPages, pagesNamed } from './pages';

const pages = [11, 12, 13, 14, 15].map((id, at) => ({ id, number: at + 1 }));

describe('pages named by their numbers', () => {
  it.each([
    ['2', [12]],
    ['4, 1-2', [11, 12, 14]],
    [' 3–5 ;1,', [11, 13, 14, 15]],
    ['5–3', [13, 14, 15]],
    ['1, 1, 1-1', [11]],
  ])('%j are these', (text, ids) => {
    expect(pagesNamed(text, pages)).toEqual({ ids });
  });

  it.each([
    ['', 'No page is named'],
    [' , ', 'No page is named'],
    ['two', '“two” names no page'],
    ['1-2-3', '“1-2-3” names no page'],
    ['0', 'There is no page 0: the last one is 5.'],
    ['4-6', 'There is no page 6: the last one is 5.'],
  ])('%j is not understood, and that is said', (text, wrong) => {
    expect(pagesNamed(text, pages)).toEqual({ wrong: expect.stringContaining(wrong) });
  });

  it.each([
    [[], ''],
    [[3], '3'],
    [[9, 3, 8, 7, 5, 7], '3, 5, 7–9'],
  ])('%j are written so', (numbers, text) => {
    expect(namedPages(numbers)).toBe(text);
  });
});
