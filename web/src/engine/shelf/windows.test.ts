import { expect, it } from 'vitest';
import { WINDOW, windowsOf } from './windows';

it('asks for the parts in view, and for the first', () => {
  expect(windowsOf([])).toEqual([0]);
  expect(windowsOf([WINDOW - 1])).toEqual([0]);
  expect(windowsOf([WINDOW - 1, WINDOW])).toEqual([0, 1]);
  expect(windowsOf([4000, 4001, 4090])).toEqual([0, 66, 68]);
});
