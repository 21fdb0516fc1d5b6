/** Words of a page: where they stand, which line is in hand, how one is put right as another was. */

import type { Box, PageText, TextWord } from '@/api/types';

const AROUND = /^[\s.,:;!?()[\]{}<>"'“”‘’„‚«»\-–—/|*]+|[\s.,:;!?()[\]{}<>"'“”‘’„‚«»\-–—/|*]+$/g;

/** A word without what stands before and behind it. */
export const coreOf = (text: string): string => text.replace(AROUND, '');

/** A word put right as another one was: what stands before and behind it stays. */
export function putLike(before: string, after: string, text: string): string {
  const [was, becomes] = [coreOf(before), coreOf(after)];
  return was && becomes ? text.replace(was, becomes) : after;
}

export type LineInHand = { words: readonly TextWord[]; box: Box; at: number; block: number };

/** The line that holds a word, by its place; undefined where there is no such word any more. */
export function lineWith(text: PageText, box: Box): LineInHand | undefined {
  const key = box.join();
  for (const { words, block } of text.lines) {
    const at = words.findIndex((word) => word.box.join() === key);
    if (at >= 0) return { words, box: around(words.map((word) => word.box)), at, block };
  }
  return undefined;
}

export function around(boxes: readonly Box[]): Box {
  return [
    Math.min(...boxes.map(([left]) => left)),
    Math.min(...boxes.map(([, top]) => top)),
    Math.max(...boxes.map(([, , right]) => right)),
    Math.max(...boxes.map(([, , , bottom]) => bottom)),
  ];
}

/** The word under a place of the page, if any; the smallest where boxes lie over each other. */
export function wordAt(text: PageText, [x, y]: readonly [number, number]): TextWord | undefined {
  const found = text.lines
    .flatMap(({ words }) => words)
    .filter(({ box: [left, top, right, bottom] }) => x >= left && x <= right && y >= top && y <= bottom);
  return found.sort((one, other) => area(one.box) - area(other.box))[0];
}

const area = ([left, top, right, bottom]: Box): number => (right - left) * (bottom - top);

/** How doubtful a word is, in the steps in which it is shown. */
export type Shade = 'none' | 'some' | 'much';
export const SOME = 0.25;
export const MUCH = 0.6;
export const shadeOf = ({ doubt, mark }: Pick<TextWord, 'doubt' | 'mark'>): Shade =>
  mark || doubt < SOME ? 'none' : doubt < MUCH ? 'some' : 'much';

/** A strip is so many heights of its line's letters wide and high: always the same shape, so that nothing below it jumps. */
export const STRIP_SHAPE = [16, 3] as const;
const LEAST_PX = 16;

/** A strip of the page around a word of a line, in whole pixels of the page: left, top, width, height. */
export function stripOf({ words, at }: LineInHand, [width, height]: readonly [number, number]): Box {
  const heights = words.map(({ box: [, top, , bottom] }) => bottom - top).sort((one, other) => one - other);
  const [left, top, right, bottom] = words[at]?.box ?? [0, 0, 0, 0];
  const letter = Math.max(LEAST_PX, heights[heights.length >> 1] ?? 0, (right - left) / (STRIP_SHAPE[0] - 2));
  const wide = Math.min(width, Math.round(STRIP_SHAPE[0] * letter));
  const high = Math.min(height, Math.round(STRIP_SHAPE[1] * letter));
  const x = Math.round((left + right - wide) / 2);
  const y = Math.round((top + bottom - high) / 2);
  return [Math.max(0, Math.min(width - wide, x)), Math.max(0, Math.min(height - high, y)), wide, high];
}

/** Where the picture of a line is found, fine enough for the strip that it is shown in. */
export function stripAddress(clean: string, line: LineInHand, size: readonly [number, number]): string {
  const [left, top, width, height] = stripOf(line, size);
  return `/iiif/render/${clean}/${left},${top},${width},${height}/!1600,400/0/default.jpg`;
}
