/** Rectangles on a page, as shares of its width and height: drawn, moved, made larger; and what becomes of those of a page. */

export type MarkBox = readonly [left: number, top: number, right: number, bottom: number];
type Named = { id: string };

/** A mark smaller than that on a side is a slip of the hand. */
export const LEAST = 0.004;

const within = (value: number) => Math.max(0, Math.min(1, value));

/** Moved, but never off the page. */
export function moved([left, top, right, bottom]: MarkBox, across: number, down: number): MarkBox {
  const x = Math.max(-left, Math.min(1 - right, across));
  const y = Math.max(-top, Math.min(1 - bottom, down));
  return [left + x, top + y, right + x, bottom + y];
}

/** Larger or smaller at its right side and its foot. */
export function sized([left, top, right, bottom]: MarkBox, across: number, down: number): MarkBox {
  return [
    left,
    top,
    Math.max(Math.min(1, left + LEAST), within(right + across)),
    Math.max(Math.min(1, top + LEAST), within(bottom + down)),
  ];
}

/** From one corner to another; nothing where that is a slip of the hand. */
export function between(one: readonly [number, number], other: readonly [number, number]): MarkBox | undefined {
  const [left, right] = [within(Math.min(one[0], other[0])), within(Math.max(one[0], other[0]))];
  const [top, bottom] = [within(Math.min(one[1], other[1])), within(Math.max(one[1], other[1]))];
  return right - left >= LEAST && bottom - top >= LEAST ? [left, top, right, bottom] : undefined;
}

/** As wide as a few words, in the middle of what is seen of the page. */
export function amid(seen: MarkBox): MarkBox {
  const [x, y] = [(within(seen[0]) + within(seen[2])) / 2, (within(seen[1]) + within(seen[3])) / 2];
  return moved([x - 0.1, y - 0.0125, x + 0.1, y + 0.0125], 0, 0);
}

/** The marks of a page after some are put there, or anew in their place, and some are taken away. */
export function changed<M extends Named>(marks: readonly M[], put: readonly M[], gone: readonly string[]): M[] {
  const byName = new Map([...marks, ...put].map((mark) => [mark.id, mark]));
  return [...byName.values()].filter(({ id }) => !gone.includes(id));
}

/** A name that no other mark has. */
export const newName = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => byte.toString(16).padStart(2, '0')).join('');
