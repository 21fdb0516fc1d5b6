import { expect, it } from 'vitest';
import { tagged } from './tags';

/** A JPEG of nothing but its beginning and end. */
const BARE = Uint8Array.from([0xff, 0xd8, 0xff, 0xdb, 0, 2, 0xff, 0xd9]);
const NOON = new Date(2026, 5, 9, 12, 30, 5);

/** APP1 with a directory of one tag: orientation, in either order of bytes. */
function withOrientation(value: number, little: boolean): Uint8Array {
  const tiff = new DataView(new ArrayBuffer(26));
  tiff.setUint16(0, little ? 0x4949 : 0x4d4d);
  tiff.setUint16(2, 42, little);
  tiff.setUint32(4, 8, little);
  tiff.setUint16(8, 1, little);
  tiff.setUint16(10, 0x0112, little);
  tiff.setUint16(12, 3, little);
  tiff.setUint32(14, 1, little);
  tiff.setUint16(18, value, little);
  const head = [0xff, 0xd8, 0xff, 0xe1, 0, 34, 0x45, 0x78, 0x69, 0x66, 0, 0];
  return Uint8Array.from([...head, ...new Uint8Array(tiff.buffer), ...BARE.subarray(2)]);
}
const valueIn = (jpeg: Uint8Array, little: boolean) =>
  new DataView(jpeg.buffer, jpeg.byteOffset).getUint16(12 + 18, little);

it('says when it was taken, that a camera took it, and which way is up', () => {
  const out = tagged(BARE, NOON, 90);
  const text = String.fromCharCode(...out);
  expect(text).toContain('Exif\0\0MM');
  expect(text).toContain('2026:06:09 12:30:05\0');
  expect(text).toMatch(/[+-]\d\d:\d\d\0/);
  expect([...out.subarray(0, 4)]).toEqual([0xff, 0xd8, 0xff, 0xe1]);
  const length = new DataView(out.buffer).getUint16(4);
  // What follows the segment is the picture as it was.
  expect([...out.subarray(4 + length)]).toEqual([...BARE.subarray(2)]);
});

it('leaves the camera’s own tags and turns what they say further', () => {
  for (const little of [true, false]) {
    expect(valueIn(tagged(withOrientation(6, little), NOON, 90), little)).toBe(3);
    expect(valueIn(tagged(withOrientation(8, little), NOON, 90), little)).toBe(1);
    expect(valueIn(tagged(withOrientation(1, little), NOON, 270), little)).toBe(8);
    const same = withOrientation(3, little);
    expect(tagged(same, NOON, 0)).toEqual(same);
  }
});

it('puts them behind the header of a PNG, with the sum that it asks for', () => {
  const signature = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
  const header = [0, 0, 0, 2, ...[...'IHDR'].map((one) => one.charCodeAt(0)), 7, 7, 1, 2, 3, 4];
  const out = tagged(Uint8Array.from([...signature, ...header, 9, 9]), NOON, 180);
  const at = signature.length + header.length;
  const view = new DataView(out.buffer);
  const length = view.getUint32(at);
  expect(String.fromCharCode(...out.subarray(at + 4, at + 8))).toBe('eXIf');
  expect(view.getUint16(at + 8 + 18)).toBe(3);
  expect([...out.subarray(at + 12 + length)]).toEqual([9, 9]);
});

it('touches nothing that is neither', () => {
  const webp = Uint8Array.from([0x52, 0x49, 0x46, 0x46]);
  expect(tagged(webp, NOON, 90)).toBe(webp);
});
