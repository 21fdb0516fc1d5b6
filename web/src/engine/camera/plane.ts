/**
 * Pictures as planes of bytes, and what is done with them: the few operations that the outline needs, as core's library does
 * them. A plane is its rows one after the other.
 */

export type Plane<Data extends ArrayLike<number> = Uint8Array> = {
  readonly data: Data;
  readonly width: number;
  readonly height: number;
};
/** Red, green and blue. */
export type Planes = readonly [Plane, Plane, Plane];

export const clamped = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

/** A picture as a canvas gives it (red, green, blue, opacity). */
export function planesOf(rgba: ArrayLike<number>, width: number, height: number): Planes {
  const of = (channel: number): Plane => {
    const data = new Uint8Array(width * height);
    for (let at = 0; at < data.length; at++) data[at] = rgba[at * 4 + channel] as number;
    return { data, width, height };
  };
  return [of(0), of(1), of(2)];
}

/** Rec. 601 luma, in the whole numbers of core's library. */
export function grayOf([red, green, blue]: Planes): Plane {
  const { width, height } = red;
  const data = new Uint8Array(width * height);
  for (let at = 0; at < data.length; at++) {
    const [r, g, b] = [red.data[at] as number, green.data[at] as number, blue.data[at] as number];
    data[at] = (r * 4899 + g * 9617 + b * 1868 + 8192) >> 14;
  }
  return { data, width, height };
}

/** Each value of a line the greater (or the lesser) of itself and the one `step` further on. */
function paired(line: Uint8Array, step: number, greatest: boolean): void {
  const end = line.length - step;
  // Without a branch: which of two neighbours is the greater cannot be foretold.
  const sign = greatest ? 1 : -1;
  for (let at = 0; at < end; at++) {
    const here = line[at] as number;
    const less = sign * (here - (line[at + step] as number));
    line[at] = here - sign * (less & (less >> 31));
  }
}

/**
 * The greatest or the least of `size` values in a row, `step` apart: windows doubled again and again take a few passes,
 * whatever their size (in idea J. Gil and M. Werman, 1993).
 */
function extremeAlong(line: Uint8Array, step: number, size: number, greatest: boolean): void {
  let wide = 1;
  for (; wide * 2 <= size; wide *= 2) paired(line, wide * step, greatest);
  if (size > wide) paired(line, (size - wide) * step, greatest);
}

/** The greatest or the least of a square around each pixel; beyond the rim is `around`, or what lies at the rim. */
function extreme({ data, width, height }: Plane, size: number, greatest: boolean, around?: number): Plane {
  const reach = size >> 1;
  const wide = width + 2 * reach;
  const padded = new Uint8Array(wide * (height + 2 * reach));
  for (let y = 0; y < height; y++) {
    const row = (y + reach) * wide;
    padded.set(data.subarray(y * width, (y + 1) * width), row + reach);
    padded.fill(around ?? (data[y * width] as number), row, row + reach);
    padded.fill(around ?? (data[(y + 1) * width - 1] as number), row + reach + width, row + wide);
  }
  for (let y = 0; y < reach; y++) {
    padded.copyWithin(y * wide, reach * wide, (reach + 1) * wide);
    padded.copyWithin((height + reach + y) * wide, (height + reach - 1) * wide, (height + reach) * wide);
  }
  if (around !== undefined) {
    padded.fill(around, 0, reach * wide);
    padded.fill(around, (height + reach) * wide);
  }
  extremeAlong(padded, 1, size, greatest);
  extremeAlong(padded, wide, size, greatest);
  const out = new Uint8Array(data.length);
  for (let y = 0; y < height; y++) out.set(padded.subarray(y * wide, y * wide + width), y * width);
  return { data: out, width, height };
}

export const dilated = (plane: Plane, size: number, around?: number) => extreme(plane, size, true, around);
export const eroded = (plane: Plane, size: number, around?: number) => extreme(plane, size, false, around);
/** Without what is dark and narrower than `size`. Of a mask (with nothing around it) gaps are filled. */
export const closed = (plane: Plane, size: number, around?: number) =>
  eroded(dilated(plane, size, around), size, around);
export const opened = (plane: Plane, size: number, around?: number) =>
  dilated(eroded(plane, size, around), size, around);

/** The mean of a square around each pixel, its rim going on beyond it. */
export function blurred({ data, width, height }: Plane, size: number): Plane {
  const reach = size >> 1;
  const sums = new Uint32Array(width + 2 * reach);
  const out = new Uint8Array(data.length);
  const add = (row: number, sign: number) => {
    const start = clamped(row, 0, height - 1) * width;
    for (let x = 0; x < width; x++) sums[x + reach] = (sums[x + reach] as number) + sign * (data[start + x] as number);
  };
  for (let row = -reach; row <= reach; row++) add(row, 1);
  for (let y = 0; y < height; y++) {
    sums.fill(sums[reach] as number, 0, reach);
    sums.fill(sums[width + reach - 1] as number, width + reach);
    let sum = 0;
    for (let x = 0; x < size; x++) sum += sums[x] as number;
    for (let x = 0; x < width; x++) {
      out[y * width + x] = Math.floor(sum / (size * size) + 0.5);
      sum += ((sums[x + size] as number) || 0) - (sums[x] as number);
    }
    add(y + reach + 1, 1);
    add(y - reach, -1);
  }
  return { data: out, width, height };
}

/** Change from pixel to pixel (Sobel's operator), in the channel in which it is greatest. */
export function stepsOf(planes: readonly Plane[]): Plane<Float32Array> {
  const [{ width, height }] = planes as [Plane];
  const out = new Float32Array(width * height);
  // Beyond the rim the picture is as it is before it, the rim itself not repeated.
  const mirrored = (at: number, length: number) => (at < 0 ? -at : at >= length ? 2 * length - 2 - at : at);
  for (const { data } of planes)
    for (let y = 0; y < height; y++) {
      const above = mirrored(y - 1, height) * width;
      const here = y * width;
      const below = mirrored(y + 1, height) * width;
      for (let x = 0; x < width; x++) {
        const left = x > 0 ? x - 1 : 1;
        const right = x < width - 1 ? x + 1 : width - 2;
        const [a, c] = [data[above + left] as number, data[above + right] as number];
        const [f, h] = [data[below + left] as number, data[below + right] as number];
        const across = c + 2 * (data[here + right] as number) + h - a - 2 * (data[here + left] as number) - f;
        const down = f + 2 * (data[below + x] as number) + h - a - 2 * (data[above + x] as number) - c;
        const step = Math.sqrt(across * across + down * down) / 8;
        if (step > (out[here + x] as number)) out[here + x] = step;
      }
    }
  return { data: out, width, height };
}

/** Pieces that hang together: their numbers from 1 on (0 where the mask is 0), and how many there are. */
export function components({ data, width }: Plane, corners: boolean): { labels: Int32Array; count: number } {
  const labels = new Int32Array(data.length);
  const waiting = new Int32Array(data.length);
  let count = 0;
  for (let start = 0; start < data.length; start++) {
    if (!data[start] || labels[start]) continue;
    count += 1;
    let open = 0;
    waiting[open++] = start;
    labels[start] = count;
    while (open > 0) {
      const at = waiting[--open] as number;
      const x = at % width;
      const left = x > 0 ? -1 : 0;
      const right = x < width - 1 ? 1 : 0;
      for (let row = at - width; row <= at + width; row += width) {
        if (row < 0 || row >= data.length) continue;
        const straight = !corners && row !== at;
        const last = straight ? row : row + right;
        for (let next = straight ? row : row + left; next <= last; next++)
          if (data[next] && !labels[next]) {
            labels[next] = count;
            waiting[open++] = next;
          }
      }
    }
  }
  return { labels, count };
}

/** The value between pixels; coordinates count from the first pixel's middle, and the rim goes on beyond the plane. */
export function sampled({ data, width, height }: Plane<ArrayLike<number>>, x: number, y: number): number {
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [across, down] = [x - left, y - top];
  const at = (column: number, row: number) =>
    data[clamped(row, 0, height - 1) * width + clamped(column, 0, width - 1)] as number;
  const upper = at(left, top) * (1 - across) + at(left + 1, top) * across;
  const lower = at(left, top + 1) * (1 - across) + at(left + 1, top + 1) * across;
  return upper * (1 - down) + lower * down;
}
