/** A sample as it is gone through, and what a plan means. */

import type { PlanAhead, Sample, Worst } from '@/api/types';

export type Curve = PlanAhead['curve'];

/** What is said of a page of a sample, as long as that page is the one that was looked at. */
export function saidOf(sample: Sample, page: number): Worst | undefined {
  const look = sample.looks.find((one) => one.page === page);
  return look?.stands ? look.worst : undefined;
}

/** Where one goes after a page: to the next one that is still to be looked at, round the end; to itself where there is none. */
export function nextIn(sample: Pick<Sample, 'pages' | 'left'>, page: number | undefined): number | undefined {
  const left = new Set(sample.left);
  const at = page === undefined ? -1 : sample.pages.indexOf(page);
  const round = [...sample.pages.slice(at + 1), ...sample.pages.slice(0, at + 1)];
  return round.find((one) => left.has(one) && one !== page) ?? page ?? sample.pages[0];
}

/** The point of a curve nearest to a share of bad pages: of a small lot whole pages are far apart. */
export function pointNear(curve: Curve, share: number): readonly [share: number, chance: number] {
  // That a lot without bad pages passes goes without saying.
  const bad = curve.filter(([of]) => of > 0);
  return bad.reduce((best, point) => (Math.abs(point[0] - share) < Math.abs(best[0] - share) ? point : best));
}

/** A share as so many of a hundred pages. */
export const inHundred = (share: number): string => String(Math.round(share * 1000) / 10);

/** Lots of so many pages and more are spoken of in shares, smaller ones in pages. */
const LARGE = 100;

/** What a plan means: how often good and bad stacks pass it. */
export function meaningOf(curve: Curve, aql: string, lot: number): string[] {
  if (curve.length < 2) return [];
  const told = ([share, chance]: readonly [number, number], still = '') => {
    const bad = Math.round(share * lot);
    const which =
      lot < LARGE
        ? `with ${bad} bad ${bad === 1 ? 'page' : 'pages'} among ${lot}`
        : `in which ${inHundred(share)} of 100 pages are bad`;
    return `A stack ${which} ${still}passes ${Math.round(100 * chance)} times in 100.`;
  };
  const near = pointNear(curve, Number(aql) / 100);
  const seldom = curve.find(([share, passes]) => passes <= SELDOM && share > near[0]);
  const last = curve[curve.length - 1] ?? near;
  return [told(near), ...(seldom ? [told(seldom)] : last[0] > near[0] ? [told(last, 'still ')] : [])];
}

/** A lot that passes no more often is told as one that seldom does (common practice: the consumer's risk, no source). */
const SELDOM = 0.1;

/** The line of a curve in a field of so many units: shares across up to the last one, chances up. */
export function lineOf(curve: Curve, width: number, height: number): string {
  const most = curve[curve.length - 1]?.[0] || 1;
  return curve
    .map(([share, chance], place) => {
      const [x, y] = [(share / most) * width, (1 - chance) * height];
      return `${place ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`;
    })
    .join(' ');
}
