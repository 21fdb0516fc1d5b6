/** Fronts and backs that were captured apart with a one-sided feeder, among the captures of a stack. */

import type { PageRow, Run } from '@/api/types';

export type Pair = { fronts: Run; backs: Run | undefined };

/** The last fronts, with the backs captured after them. */
export function halves(runs: readonly Run[] | undefined): Pair | undefined {
  const done = runs?.filter(({ state }) => state === 'done') ?? [];
  const last = done.find(({ settings }) => settings.half);
  if (!last) return undefined;
  if (last.settings.half === 'fronts') return { fronts: last, backs: undefined };
  const fronts = done.find((run) => run.settings.half === 'fronts' && run.id < last.id);
  return fronts && { fronts, backs: last };
}

/** Whether fronts and backs stand among each other already, or some are gone. */
export function inOrder({ fronts, backs }: Pair, pages: readonly PageRow[]): boolean {
  const place = new Map(pages.map((page) => [page.id, page.number]));
  const of = (run: Run | undefined) => run?.files.map(({ page }) => place.get(page ?? -1)) ?? [];
  const [front, back] = [of(fronts), of(backs)];
  if (!front.length || !back.length || [...front, ...back].includes(undefined)) return true;
  // A single sheet has nothing to be brought among.
  if (front.length === 1) return true;
  return Math.min(...(back as number[])) < Math.max(...(front as number[]));
}
