import { expect, it } from 'vitest';
import { turned, turnedSize, unturned } from './turned';

it.each([0, 90, 180, 270] as const)('a place survives a turn by %i and back', (turn) => {
  const size = [300, 200] as const;
  const place = [40, 150] as const;
  expect(unturned(turned(place, size, turn), size, turn)).toEqual(place);
  const [width, height] = turnedSize(size, turn);
  const [x, y] = turned([0, 0], size, turn);
  expect([0, width]).toContain(x);
  expect([0, height]).toContain(y);
});

it('a turn to the right takes the top-left corner to the top right', () => {
  expect(turned([0, 0], [300, 200], 90)).toEqual([200, 0]);
});
