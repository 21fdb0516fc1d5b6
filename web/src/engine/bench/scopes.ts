/** On which pages a correction can be used besides the one it was made on. */

import type { Correction } from '@/api/bench';
import type { PageRow } from '@/api/types';

export type Scope = 'chosen' | 'rectos' | 'versos' | 'source' | 'size' | 'stack';

export const SCOPES: Record<Scope, string> = {
  chosen: 'Chosen pages',
  rectos: 'Odd pages',
  versos: 'Even pages',
  source: 'Same source',
  size: 'Same size',
  stack: 'Whole stack',
};

/** Corrections by what they are to whoever works: each sets one or more fields. */
export const PARTS = {
  turn: { label: 'Turn', fields: ['turn'] },
  skew: { label: 'Tilt', fields: ['skew'] },
  corners: { label: 'Corners', fields: ['quad', 'crop'] },
  borders: { label: 'Borders', fields: ['clear', 'plain'] },
  colour: { label: 'Colour', fields: ['colour'] },
  tone: { label: 'Tone', fields: ['adjust', 'even_tone', 'reduce_show_through'] },
} as const satisfies Record<string, { label: string; fields: readonly (keyof Correction)[] }>;
export type Part = keyof typeof PARTS;

/** Corners and borders are places in an image: they mean nothing in an image of another size. */
const IN_PIXELS: readonly Part[] = ['corners', 'borders'];
const SIZE_WITHIN = 0.01;

export function partsOf(fields: Iterable<string>): Part[] {
  const names = new Set(fields);
  return (Object.keys(PARTS) as Part[]).filter((part) => PARTS[part].fields.some((field) => names.has(field)));
}

export type Reach = {
  /** Pages it would be used on. */
  pages: PageRow[];
  /** Of these, pages that have one of these corrections by hand already. */
  own: PageRow[];
  /** Pages passed over because their images have another size. */
  others: number;
};

/** The pages a correction of `page` reaches; never the page itself. */
export function reach(
  scope: Scope,
  page: PageRow,
  pages: readonly PageRow[],
  chosen: ReadonlySet<number>,
  parts: readonly Part[],
): Reach {
  const within = pages.filter(
    (one) => one.id !== page.id && one.original !== null && belongs(scope, page, one, chosen),
  );
  const placed = parts.some((part) => IN_PIXELS.includes(part));
  const fit = placed ? within.filter((one) => sameSize(page, one, 0)) : within;
  const fields = new Set<string>(parts.flatMap((part) => PARTS[part].fields));
  return {
    pages: fit,
    own: fit.filter(({ own }) => own.some((name) => fields.has(name))),
    others: within.length - fit.length,
  };
}

function belongs(scope: Scope, page: PageRow, one: PageRow, chosen: ReadonlySet<number>): boolean {
  switch (scope) {
    case 'chosen':
      return chosen.has(one.id);
    case 'rectos':
      return one.number % 2 === 1;
    case 'versos':
      return one.number % 2 === 0;
    case 'source':
      return one.origin === page.origin;
    case 'size':
      return sameSize(page, one, SIZE_WITHIN);
    case 'stack':
      return true;
  }
}

function sameSize(page: PageRow, one: PageRow, within: number): boolean {
  const [a, b] = [page.original_px, one.original_px];
  if (!a || !b) return false;
  return [0, 1].every((axis) => Math.abs((a[axis] ?? 0) - (b[axis] ?? 0)) <= within * (a[axis] ?? 0));
}
