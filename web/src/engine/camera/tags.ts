/**
 * What a picture says of itself: when it was taken, that a camera took it, and which way is up (Exif 2.32, CIPA
 * DC-008-2019, 4.6.4 and 4.6.5; in an APP1 segment of a JPEG, 4.7.2, or the eXIf chunk of a PNG, third edition, 11.3.4.5).
 * Tags of the camera's own stay, with the turn put into them.
 */

import type { Turn } from '@/engine/geometry/turned';

/** What the tag of orientation says where the upright picture is the stored one turned clockwise. */
const ORIENTATION: Record<Turn, number> = { 0: 1, 90: 6, 180: 3, 270: 8 };
const QUARTERS: Record<number, Turn> = { 1: 0, 6: 90, 3: 180, 8: 270 };
const [SOI, APP1] = [0xffd8, 0xffe1];
const TAG_ORIENTATION = 0x0112;
const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const EXIF = [0x45, 0x78, 0x69, 0x66, 0, 0];

/** The picture with its tags; as it is where it is neither a JPEG nor a PNG. */
export function tagged(picture: Uint8Array, taken: Date, turn: Turn): Uint8Array {
  const view = new DataView(picture.buffer, picture.byteOffset, picture.byteLength);
  if (PNG.every((byte, at) => picture[at] === byte)) {
    const header = PNG.length + 12 + view.getUint32(PNG.length);
    return joined([picture.subarray(0, header), chunk(tiffOf(taken, turn)), picture.subarray(header)]);
  }
  if (picture.length < 4 || view.getUint16(0) !== SOI) return picture;
  const there = exifOf(view);
  if (there !== undefined) {
    const out = picture.slice();
    if (turnedTag(new DataView(out.buffer), there, turn) || turn === 0) return out;
  }
  return joined([picture.subarray(0, 2), segment(tiffOf(taken, turn)), picture.subarray(2)]);
}

/** What a picture's file is called by its kind. */
export const endingOf = (type: string): string => (type === 'image/png' ? 'png' : 'jpg');

/** Where the TIFF header of the tags begins; undefined where there are none. */
function exifOf(view: DataView): number | undefined {
  let at = 2;
  while (at + 10 < view.byteLength) {
    const [marker, length] = [view.getUint16(at), view.getUint16(at + 2)];
    if (marker === APP1 && EXIF.every((byte, i) => view.getUint8(at + 4 + i) === byte)) return at + 10;
    // Tags stand before the picture's own data.
    if (marker < 0xffe0 || marker > 0xffef) return undefined;
    at += 2 + length;
  }
  return undefined;
}

/** Turns what the camera says further; false where it says nothing of it. */
function turnedTag(view: DataView, tiff: number, turn: Turn): boolean {
  const little = view.getUint16(tiff) === 0x4949;
  const directory = tiff + view.getUint32(tiff + 4, little);
  if (directory + 2 > view.byteLength) return false;
  const entries = view.getUint16(directory, little);
  for (let entry = directory + 2; entry < directory + 2 + 12 * entries && entry + 12 <= view.byteLength; entry += 12) {
    if (view.getUint16(entry, little) !== TAG_ORIENTATION) continue;
    const before = QUARTERS[view.getUint16(entry + 8, little)];
    if (before === undefined) return turn === 0; // mirrored: no camera above a table does that
    view.setUint16(entry + 8, ORIENTATION[((before + turn) % 360) as Turn], little);
    return true;
  }
  return false;
}

/** Two directories: the image's (orientation), and the picture's (when, the zone, that a camera took it). */
function tiffOf(taken: Date, turn: Turn): Uint8Array {
  const when = `${stamp(taken)}\0`;
  const zone = `${zoneOf(taken)}\0`;
  const [ifd0, inner] = [8, 8 + 2 + 2 * 12 + 4];
  const strings = inner + 2 + 3 * 12 + 4;
  const tiff = new Uint8Array(strings + when.length + zone.length);
  const view = new DataView(tiff.buffer);
  view.setUint16(0, 0x4d4d);
  view.setUint16(2, 42);
  view.setUint32(4, ifd0);
  const entry = (at: number, tag: number, type: number, count: number, value: number, short = false) => {
    view.setUint16(at, tag);
    view.setUint16(at + 2, type);
    view.setUint32(at + 4, count);
    if (short) view.setUint16(at + 8, value);
    else view.setUint32(at + 8, value);
  };
  view.setUint16(ifd0, 2);
  entry(ifd0 + 2, TAG_ORIENTATION, 3, 1, ORIENTATION[turn], true);
  entry(ifd0 + 14, 0x8769, 4, 1, inner);
  view.setUint16(inner, 3);
  entry(inner + 2, 0x9003, 2, when.length, strings);
  entry(inner + 14, 0x9011, 2, zone.length, strings + when.length);
  entry(inner + 26, 0xa300, 7, 1, 3 << 24); // FileSource: a digital still camera
  for (const [at, char] of [...(when + zone)].entries()) tiff[strings + at] = char.charCodeAt(0);
  return tiff;
}

function segment(tiff: Uint8Array): Uint8Array {
  const out = new Uint8Array(4 + EXIF.length + tiff.length);
  const head = new DataView(out.buffer);
  head.setUint16(0, APP1);
  head.setUint16(2, out.length - 2);
  out.set(EXIF, 4);
  out.set(tiff, 4 + EXIF.length);
  return out;
}

function chunk(tiff: Uint8Array): Uint8Array {
  const out = new Uint8Array(12 + tiff.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, tiff.length);
  for (const [at, char] of [...'eXIf'].entries()) out[4 + at] = char.charCodeAt(0);
  out.set(tiff, 8);
  view.setUint32(8 + tiff.length, crc32(out.subarray(4, 8 + tiff.length)));
  return out;
}

/** As PNG has it (third edition, annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1;
  }
  return ~crc >>> 0;
}

const two = (value: number) => String(value).padStart(2, '0');
const stamp = (time: Date) =>
  `${time.getFullYear()}:${two(time.getMonth() + 1)}:${two(time.getDate())} ${two(time.getHours())}:${two(time.getMinutes())}:${two(time.getSeconds())}`;

function zoneOf(time: Date): string {
  const minutes = -time.getTimezoneOffset();
  const [sign, off] = [minutes < 0 ? '-' : '+', Math.abs(minutes)];
  return `${sign}${two(Math.floor(off / 60))}:${two(off % 60)}`;
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
