/** What may be a page in a frame: a port of core's `table_pieces`, which says why; held to it by a test. */

import { blurred, clamped, closed, components, dilated, eroded, opened, type Plane, type Planes } from './plane';

export const STROKE_PX = 9;
export const HALF = 2;
const [STROKE, GAP] = [5, 3];
const [CLEAR, WEAK] = [3.5, 1.8] as const;
const RING = 0.05;
const LEVELS = 16;
const COMMON = 0.004;
const SHADES = [1, 0.85, 0.7, 0.58] as const;
const REACHED = 0.8;
const MIDDLE = 0.2;

/** What is most often a page first, and the rest only if it is asked for. */
export function* piecesOf(whole: Planes, fine: Plane<Float32Array>): Generator<Plane[]> {
  const planes = whole.map(halved) as unknown as Planes;
  const steps = steepest(fine);
  const clear = eroded(inverse(edgesOf(steps, CLEAR)), GAP, 1);
  yield [inTheMiddle(unlikeTable(planes)), inTheMiddle(notReached(clear)), smooth(clear)].filter(present);
  const weak = eroded(inverse(edgesOf(steps, WEAK)), GAP, 1);
  yield [inTheMiddle(notReached(weak)), smooth(weak)].filter(present);
}

function halved({ data, width, height }: Plane): Plane {
  const [across, down] = [width >> 1, height >> 1];
  const out = new Uint8Array(across * down);
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const at = 2 * y * width + 2 * x;
      const [a, b] = [data[at] as number, data[at + 1] as number];
      out[y * across + x] = (a + b + (data[at + width] as number) + (data[at + width + 1] as number) + 2) >> 2;
    }
  return { data: out, width: across, height: down };
}

function steepest({ data, width, height }: Plane<Float32Array>): Plane<Float32Array> {
  const [across, down] = [width >> 1, height >> 1];
  const out = new Float32Array(across * down);
  for (let y = 0; y < down; y++)
    for (let x = 0; x < across; x++) {
      const at = 2 * y * width + 2 * x;
      const upper = Math.max(data[at] as number, data[at + 1] as number);
      out[y * across + x] = Math.max(upper, data[at + width] as number, data[at + width + 1] as number);
    }
  return { data: out, width: across, height: down };
}

const present = (piece: Plane | undefined): piece is Plane => piece !== undefined;
const inTheMiddle = (mask: Plane | undefined) => mask && largestInTheMiddle(opened(mask, GAP, 0));

/** 1 on clear edges, and on weak ones that go on from them. */
function edgesOf({ data, width, height }: Plane<Float32Array>, weak: number): Plane {
  const mask = new Uint8Array(data.length);
  for (let at = 0; at < data.length; at++) mask[at] = (data[at] as number) >= weak ? 1 : 0;
  const { labels, count } = components({ data: mask, width, height }, true);
  const clear = new Uint8Array(count + 1);
  for (let at = 0; at < data.length; at++) if ((data[at] as number) >= CLEAR) clear[labels[at] as number] = 1;
  for (let at = 0; at < data.length; at++) mask[at] = clear[labels[at] as number] as number;
  return { data: mask, width, height };
}

/** 1 where a colour is none of the table's, strokes filled in. */
function unlikeTable(planes: Planes): Plane {
  const calm = planes.map((plane) => blurred(plane, 3).data) as [Uint8Array, Uint8Array, Uint8Array];
  const [{ width, height }] = planes;
  const ring = Math.max(4, Math.round(RING * Math.min(width, height)));
  const counts = new Float64Array((LEVELS + 2) ** 3);
  const [down, across] = [(LEVELS + 2) ** 2, LEVELS + 2];
  const size = 256 / LEVELS;
  let around = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (y >= ring && y < height - ring && x >= ring && x < width - ring) continue;
      const at = y * width + x;
      const [r, g, b] = calm.map((channel) => Math.floor((channel[at] as number) / size) + 1) as [
        number,
        number,
        number,
      ];
      const bin = r * down + g * across + b;
      counts[bin] = (counts[bin] as number) + 1;
      around += 1;
    }
  // A colour at the border of its bin is as often in the next.
  let spread = counts;
  for (const step of [down, across, 1]) {
    const next = new Float64Array(counts.length);
    for (let at = 0; at < next.length; at++)
      next[at] = (spread[at] as number) + (spread[at - step] ?? 0) + (spread[at + step] ?? 0);
    spread = next;
  }
  const table = Uint8Array.from(spread, (count) => (count >= COMMON * around ? 1 : 0));
  // A table in shadow is the table with less light.
  const lit = SHADES.map((shade) =>
    Uint8Array.from({ length: 256 }, (_, gray) => Math.floor(Math.min(255, Math.floor(gray / shade + 0.5)) / size) + 1),
  );
  const other = new Uint8Array(width * height);
  for (let at = 0; at < other.length; at++) {
    const [r, g, b] = [calm[0][at] as number, calm[1][at] as number, calm[2][at] as number];
    let alike = 0;
    for (const bins of lit)
      alike |= table[(bins[r] as number) * down + (bins[g] as number) * across + (bins[b] as number)] as number;
    other[at] = 1 - alike;
  }
  return closed({ data: other, width, height }, STROKE, 0);
}

/** 1 where one does not come from the frame's rim without crossing an edge; undefined where the rim is no plain table. */
function notReached(free: Plane): Plane | undefined {
  const { width, height } = free;
  const { labels, count } = components(free, false);
  const reached = new Uint8Array(count + 1);
  const rim = rimOf(width, height);
  for (const at of rim) reached[labels[at] as number] = 1;
  reached[0] = 0;
  const plain = rim.reduce((sum, at) => sum + (reached[labels[at] as number] as number), 0);
  if (plain < REACHED * rim.length) return undefined;
  const data = new Uint8Array(labels.length);
  for (let at = 0; at < data.length; at++) data[at] = reached[labels[at] as number] as number;
  return inverse(dilated({ data, width, height }, GAP, 0));
}

function rimOf(width: number, height: number): number[] {
  const rows = Array.from({ length: width }, (_, x) => [x, (height - 1) * width + x]);
  const columns = Array.from({ length: height }, (_, y) => [y * width, y * width + width - 1]);
  return [...rows, ...columns].flat();
}

/** 1 on the largest smooth piece in the frame's middle; what reaches the rim is not smooth beyond it. */
function smooth(free: Plane): Plane | undefined {
  const { width, height } = free;
  const data = free.data.slice();
  const reach = GAP >> 1;
  data.fill(0, 0, reach * width);
  data.fill(0, (height - reach) * width);
  for (let y = 0; y < height; y++) {
    data.fill(0, y * width, y * width + reach);
    data.fill(0, (y + 1) * width - reach, (y + 1) * width);
  }
  const piece = largestInTheMiddle({ data, width, height });
  return piece && dilated(piece, GAP, 0);
}

function inverse({ data, width, height }: Plane): Plane {
  const out = new Uint8Array(data.length);
  for (let at = 0; at < out.length; at++) out[at] = 1 - (data[at] as number);
  return { data: out, width, height };
}

/** 1 on the piece of a mask that takes up most of the middle; undefined where it takes up little of it. */
function largestInTheMiddle(mask: Plane): Plane | undefined {
  const { width, height } = mask;
  const { labels, count } = components(mask, false);
  const sizes = new Int32Array(count + 1);
  const [top, left] = [Math.floor(height / 3), Math.floor(width / 3)];
  for (let y = top; y < height - top; y++)
    for (let x = left; x < width - left; x++) {
      const label = labels[y * width + x] as number;
      sizes[label] = (sizes[label] as number) + 1;
    }
  sizes[0] = 0;
  const most = sizes.reduce((best, size, label) => (size > (sizes[best] as number) ? label : best), 0);
  if ((sizes[most] as number) < MIDDLE * (height - 2 * top) * (width - 2 * left)) return undefined;
  const data = new Uint8Array(labels.length);
  for (let at = 0; at < data.length; at++) data[at] = labels[at] === most ? 1 : 0;
  return { data, width, height };
}

/** Whether there are dark strokes in the frame's middle. */
export function isWrittenOn(gray: Plane): boolean {
  const { width, height } = gray;
  const calm = closed(gray, STROKE_PX);
  const [top, left] = [Math.floor(height / 3), Math.floor(width / 3)];
  let ink = 0;
  for (let y = top; y < height - top; y++)
    for (let x = left; x < width - left; x++) {
      const at = y * width + x;
      if ((calm.data[at] as number) - (gray.data[at] as number) >= INK_CONTRAST) ink += 1;
    }
  return ink >= INK_SHARE * clamped((height - 2 * top) * (width - 2 * left), 1, Number.POSITIVE_INFINITY);
}

const INK_CONTRAST = 24;
const INK_SHARE = 0.006;
