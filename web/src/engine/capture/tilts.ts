/** Whether the sheets of a load come in tilted as they do where the guides are loose: said while the bundle is at hand. */

import type { PageRow, Run } from '@/api/types';

/** A sheet that is cut or printed askew tilts too; guides show on several of them (common practice, no source). */
const LARGE_DEG = 2;
const SEVERAL = 3;
/** By so much more at the end of a load than at its beginning, of so many sheets at least, it grows. */
const GROWN_DEG = 1.5;
const MANY = 6;

export type Tilts = { largest: number; several: boolean; grows: boolean };

/** Of tilts in degrees in the order in which sheets came; undefined where guides need no look. */
export function loose(tilts: readonly number[]): Tilts | undefined {
  const sizes = tilts.map(Math.abs);
  const several = sizes.filter((size) => size >= LARGE_DEG).length >= SEVERAL;
  const grows = sizes.length >= MANY && slope(sizes) * (sizes.length - 1) >= GROWN_DEG;
  return several || grows ? { largest: Math.max(...sizes), several, grows } : undefined;
}

/** Tilts of the fronts of a load of the feeder, as far as they are measured. */
export function tiltsOf({ settings, files }: Run, pages: ReadonlyMap<number, PageRow>): number[] {
  if (settings.source !== 'feeder') return [];
  const fronts = settings.two_sided ? files.filter(({ index }) => index % 2 === 0) : files;
  return fronts.flatMap(({ page }) => pages.get(page ?? -1)?.skew_deg ?? []);
}

/** The median of the slopes between all pairs (Sen, J. Am. Stat. Assoc. 63, 1968): single sheets do not bend it. */
function slope(values: readonly number[]): number {
  const slopes: number[] = [];
  for (const [i, value] of values.entries())
    for (const [by, other] of values.slice(i + 1).entries()) slopes.push((other - value) / (by + 1));
  slopes.sort((a, b) => a - b);
  const middle = Math.floor(slopes.length / 2);
  return slopes.length % 2 ? (slopes[middle] ?? 0) : ((slopes[middle - 1] ?? 0) + (slopes[middle] ?? 0)) / 2;
}
