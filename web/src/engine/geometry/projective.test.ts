import { expect, it } from 'vitest';
import {
  chain,
  cssTransform,
  fromRectangle,
  IDENTITY,
  inverse,
  mapped,
  type Quad,
  quarterTurn,
  shift,
  stretch,
} from './projective';
import { turned } from './turned';

const seen: Quad = [
  [12, 8],
  [190, 30],
  [170, 260],
  [5, 240],
];

it('a rectangle goes to four corners, and they come back', () => {
  const map = fromRectangle([100, 150], seen);
  const corners = [
    [0, 0],
    [100, 0],
    [100, 150],
    [0, 150],
  ] as const;
  corners.forEach((corner, index) => {
    const [x, y] = mapped(map, corner);
    expect(x).toBeCloseTo(seen[index]?.[0] ?? 0, 6);
    expect(y).toBeCloseTo(seen[index]?.[1] ?? 0, 6);
    const back = mapped(inverse(map), [x, y]);
    expect(back[0]).toBeCloseTo(corner[0], 6);
    expect(back[1]).toBeCloseTo(corner[1], 6);
  });
});

it('a map and its inverse are nothing', () => {
  const map = chain(shift(3, 4), stretch(2, 5), shift(-1, 7));
  for (const [index, value] of chain(map, inverse(map)).entries()) expect(value).toBeCloseTo(IDENTITY[index] ?? 0, 9);
});

it('maps are applied in the order they are named', () => {
  expect(mapped(chain(shift(10, 0), stretch(2)), [1, 1])).toEqual([22, 2]);
});

it.each([0, 90, 180, 270] as const)('a quarter turn by %i is the one of turned.ts', (turn) => {
  expect(mapped(quarterTurn(turn, [300, 200]), [40, 150])).toEqual(turned([40, 150], [300, 200], turn));
});

it('CSS has its matrices column by column', () => {
  expect(cssTransform([1, 2, 3, 4, 5, 6, 7, 8, 9])).toBe('matrix3d(1,4,0,7,2,5,0,8,0,0,1,0,3,6,0,9)');
});
