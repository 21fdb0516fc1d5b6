import { expect, it } from 'vitest';
import { isNamedByDay, namedByDay } from './names';

it('the name of a stack that nobody has named is known again', () => {
  expect(namedByDay(new Date(2027, 1, 3))).toBe('Stack of 3 February 2027');
  expect(isNamedByDay(namedByDay(new Date(2026, 10, 27)))).toBe(true);
  expect(isNamedByDay('Stack of letters, 1927')).toBe(false);
  expect(isNamedByDay('Stack of 3 February 2027, box 4')).toBe(false);
});
