import { expect, it } from 'vitest';
import { coverWords } from './covers';

const SHEET = { page: 7, stack: 3, name: 'Letters', in_bin: false, filed: 0, left: 0, why_left: '' };

it('says how many pages went where', () => {
  expect(coverWords({ ...SHEET, filed: 1 })).toBe('1 page behind it was filed under “Letters”.');
  expect(coverWords({ ...SHEET, filed: 12 })).toBe('12 pages behind it were filed under “Letters”.');
});

it('says how many stay, and why', () => {
  const why_left = '“Letters” is closed; reopen it, and they go there';
  expect(coverWords({ ...SHEET, left: 1, why_left })).toBe(`1 page behind it stays here: ${why_left}.`);
  expect(coverWords({ ...SHEET, filed: 2, left: 3, why_left })).toBe(
    `2 pages behind it were filed under “Letters”. 3 pages behind it stay here: ${why_left}.`,
  );
});

it('says nothing before anything is done', () => {
  expect(coverWords(SHEET)).toBe('');
});
