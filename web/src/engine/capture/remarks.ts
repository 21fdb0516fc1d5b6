/** What is worth knowing of a load while its paper is at hand. */

import type { PageRow, Run } from '@/api/types';
import { loose, type Tilts, tiltsOf } from './tilts';

export type Remark =
  | { kind: 'guides'; tilts: Tilts }
  | { kind: 'askew' | 'missing corner' | 'longer' | 'coarse picture'; places: number[] }
  | { kind: 'no colour'; pages: number }
  | { kind: 'unnamed' };

/** A picture wants so many, where text is well served by fewer (common practice, no source). */
export const PICTURE_PPI = 300;
/** So far askew, one sheet among straight ones is bent, or was caught by a corner (common practice, no source). */
const ASKEW_DEG = 3;
/** Longer than the middle one of its load by this share of it: another sheet lies over its end. */
const LONGER = 0.12;
/** So many sheets tell what the others are like. */
const SEVERAL = 4;
/** Of which so large a part is of one length, within LIKE of it. */
const MOST = 0.7;
const LIKE = 0.04;
/** Named so where nobody has named them. */
export const UNNAMED = 'page';

/** The remarks on a run, by the pages that have been measured, the most pressing first. */
export function remarksOf(run: Run, pages: ReadonlyMap<number, PageRow>): Remark[] {
  const { settings, files } = run;
  const rows = files.flatMap(({ index, page }) => {
    const row = pages.get(page ?? -1);
    // What is aside is blank, or a sheet that separates: no picture, no colour, no fault of the paper is looked for there.
    return row?.original && !row.aside ? [{ place: placeOf(run, index), row }] : [];
  });
  const which = (test: (row: PageRow) => boolean) => [
    ...new Set(rows.filter(({ row }) => test(row)).map(({ place }) => place)),
  ];
  const feeder = settings.source === 'feeder';
  const guides = loose(tiltsOf(run, pages));
  const askew = feeder && !guides ? which(({ skew_deg }) => Math.abs(skew_deg ?? 0) >= ASKEW_DEG) : [];
  const corners = which(({ shows }) => shows.includes('missing corner'));
  const longest = feeder ? longerThanMost(rows.map(({ row }) => row.height_mm)) : undefined;
  const longer = longest === undefined ? [] : which(({ height_mm }) => height_mm > longest);
  const coarse = settings.ppi < PICTURE_PPI ? which(({ shows }) => shows.includes('picture')) : [];
  const plain =
    settings.colour === 'colour' && rows.length >= SEVERAL && rows.every(({ row }) => row.shows.every(isNoReason));
  return [
    ...(guides ? [{ kind: 'guides' as const, tilts: guides }] : []),
    ...some('longer', longer),
    ...some('askew', askew),
    ...some('missing corner', corners),
    ...some('coarse picture', coarse),
    ...(plain ? [{ kind: 'no colour' as const, pages: rows.length }] : []),
    ...(settings.name === UNNAMED && files.length ? [{ kind: 'unnamed' as const }] : []),
  ];
}

/** Pictures are captured in colour for their tones too. */
const isNoReason = (shown: PageRow['shows'][number]) => shown !== 'colour' && shown !== 'picture';

/** The sheet of a feeder, or the image off the glass, from 1. */
const placeOf = ({ settings }: Run, index: number) => Math.floor(index / (settings.two_sided ? 2 : 1)) + 1;

/** Longer than this is longer than most are, in mm; undefined where sheets are of several lengths, or few. */
function longerThanMost(heights: readonly number[]): number | undefined {
  const known = heights.filter((height) => height > 0).sort((a, b) => a - b);
  const middle = known[Math.floor(known.length / 2)];
  if (middle === undefined || known.length < SEVERAL) return undefined;
  const alike = known.filter((height) => Math.abs(height - middle) <= LIKE * middle).length;
  return alike >= MOST * known.length ? middle * (1 + LONGER) : undefined;
}

const some = (kind: 'askew' | 'missing corner' | 'longer' | 'coarse picture', places: number[]): Remark[] =>
  places.length ? [{ kind, places }] : [];
