import { expect, it } from 'vitest';
import { blurred, closed, components, dilated, eroded, opened, type Plane, planesOf, sampled, stepsOf } from './plane';

/** Rows as figures: 0 to 9. */
const plane = (...rows: string[]): Plane => ({
  data: Uint8Array.from(rows.join(''), Number),
  width: rows[0]?.length ?? 0,
  height: rows.length,
});
const rowsOf = ({ data, width, height }: Plane) =>
  Array.from({ length: height }, (_, y) => [...data.subarray(y * width, (y + 1) * width)].join(''));

it('grows and shrinks by a square, with what lies at the rim or what is said beyond it', () => {
  const one = plane('00000', '00000', '00100', '00000', '00000');
  expect(rowsOf(dilated(one, 3))).toEqual(['00000', '01110', '01110', '01110', '00000']);
  expect(rowsOf(eroded(dilated(one, 3), 3))).toEqual(rowsOf(one));
  expect(rowsOf(eroded(plane('111', '111', '111'), 3, 0))).toEqual(['000', '010', '000']);
  expect(rowsOf(eroded(plane('111', '111', '111'), 3))).toEqual(['111', '111', '111']);
  expect(rowsOf(dilated(plane('000', '000', '000'), 3, 1))).toEqual(['111', '101', '111']);
});

it('grows by any odd square', () => {
  const row = plane('000000050000000');
  expect([3, 5, 7, 9, 11].map((size) => rowsOf(dilated(row, size))[0])).toEqual([
    '000000555000000',
    '000005555500000',
    '000055555550000',
    '000555555555000',
    '005555555555500',
  ]);
});

it('closes dark strokes and opens light ones that are narrower', () => {
  expect(rowsOf(closed(plane('9909009', '9909009', '9909009'), 3))[0]).toBe('9999999');
  expect(rowsOf(closed(plane('9900099'), 3))[0]).toBe('9900099');
  expect(rowsOf(opened(plane('0010110', '0010110', '0010110'), 3, 0))[0]).toBe('0000000');
});

it('takes means with the rim going on', () => {
  expect(rowsOf(blurred(plane('000', '090', '000'), 3))).toEqual(['111', '111', '111']);
  expect(rowsOf(blurred(plane('900', '900', '900'), 3))).toEqual(['630', '630', '630']);
});

it('tells pieces apart, with and without corners', () => {
  const mask = plane('1100', '0010', '0001', '1000');
  expect(components(mask, false).count).toBe(4);
  expect(components(mask, true).count).toBe(2);
  const { labels } = components(plane('101', '101', '111'), false);
  expect(new Set(labels)).toEqual(new Set([0, 1]));
  // The end of a row does not touch the beginning of the next.
  expect(components(plane('001', '100'), true).count).toBe(2);
});

it('measures the step of an edge in gray levels a pixel', () => {
  const edge = { ...plane('000', '000', '000'), data: Uint8Array.from([0, 0, 80, 0, 0, 80, 0, 0, 80]) };
  expect([...stepsOf([edge]).data.subarray(3, 6)]).toEqual([0, 40, 0]);
  const dull = { ...edge, data: new Uint8Array(9) };
  expect(stepsOf([dull, edge, dull]).data[4]).toBe(40);
});

it('reads between pixels, and beyond the rim what lies at it', () => {
  const two = plane('08', '08');
  expect(sampled(two, 0.5, 0.5)).toBe(4);
  expect(sampled(two, -3, 0)).toBe(0);
  expect(sampled(two, 9, 9)).toBe(8);
});

it('takes a picture apart by its channels', () => {
  const [red, green, blue] = planesOf([1, 2, 3, 255, 4, 5, 6, 255], 2, 1);
  expect([red, green, blue].map(({ data }) => [...data])).toEqual([
    [1, 4],
    [2, 5],
    [3, 6],
  ]);
});
