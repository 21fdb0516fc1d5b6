import { expect, it } from 'vitest';
import { differenceWords } from './difference';

it.each([
  [0, 0, 'Nothing went or came that is larger than a speck'],
  [1, 0, '1 place where something went'],
  [0, 1, '1 place where something came'],
  [3, 1200, '3 places where something went, 1,200 places where something came'],
])('says what went and what came: %i, %i', (went, came, said) => {
  expect(differenceWords(went, came).replace(/\s/gu, ' ')).toBe(said);
});
