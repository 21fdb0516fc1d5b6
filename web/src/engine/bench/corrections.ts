/** What is set by hand on a page. */

import type { Correction } from '@/api/bench';
import type { Page } from '@/api/types';
import type { Quad } from '@/engine/geometry/projective';

const FIELDS = [
  'turn',
  'skew',
  'quad',
  'crop',
  'clear',
  'plain',
  'colour',
  'even_tone',
  'reduce_show_through',
  'adjust',
] as const satisfies readonly (keyof Correction)[];

/** What is corrected by hand on the page as it is saved. */
export function corrections({ override }: Page): Correction {
  return Object.fromEntries(FIELDS.map((name) => [name, override[name] ?? null])) as Correction;
}

/** The wish that takes back whatever of a correction is set; undefined where nothing is. */
export function nothingOf(own: Correction): Correction | undefined {
  const set = FIELDS.filter((name) => own[name] != null);
  return set.length ? (Object.fromEntries(set.map((name) => [name, null])) as Correction) : undefined;
}

/** A quad as the server takes it. */
export const asField = ([a, b, c, d]: Quad): NonNullable<Correction['quad']> => [[...a], [...b], [...c], [...d]];
