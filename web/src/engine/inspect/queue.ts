/** The findings of a stack as they are gone through: which wait, which one is in hand, what follows. */

import type { InspectFinding, PageRow } from '@/api/types';

/** A finding with its page; one that concerns the whole stack has none. */
export type Waiting = { finding: InspectFinding; page: PageRow | undefined };

/** Names a finding as long as it is the same. */
export const keyOf = ({ page, kind, judged }: Pick<InspectFinding, 'page' | 'kind' | 'judged'>): string =>
  `${page} ${kind} ${judged}`;

/**
 * What waits for somebody, in the order of the pages: nobody has found it fine, its page is neither held out nor to be captured
 * again. A page held out as blank waits where traces were found on it.
 */
export function waiting(findings: readonly InspectFinding[], pages: readonly PageRow[]): Waiting[] {
  const byId = new Map(pages.map((page) => [page.id, page]));
  const found = findings.flatMap((finding): Waiting[] => {
    if (finding.fine) return [];
    if (finding.page === null) return [{ finding, page: undefined }];
    const page = byId.get(finding.page);
    return page && !page.rescan && !(page.aside && finding.kind !== 'blank') ? [{ finding, page }] : [];
  });
  return found.sort((one, other) => (one.page?.number ?? 0) - (other.page?.number ?? 0));
}

/**
 * What was decided just now, by its key, and the stack's count of changes at which findings say so themselves: endless while
 * that is not known yet.
 */
export type Decided = ReadonlyMap<string, number>;

/** Without what was decided and the findings, which know the changes up to a count, do not show yet. */
export const undecided = (queue: readonly Waiting[], decided: Decided, change: number): Waiting[] =>
  queue.filter(({ finding }) => (decided.get(keyOf(finding)) ?? 0) <= change);

/**
 * Where in the queue one is: at what was in hand, where that is still there; else at what came behind it, by the place it had; else
 * at the first of the page that the address names.
 */
export function placeIn(
  queue: readonly Waiting[],
  hand: { key: string; at: number } | undefined,
  named?: number,
): number {
  if (hand) {
    const still = queue.findIndex(({ finding }) => keyOf(finding) === hand.key);
    return still >= 0 ? still : Math.min(hand.at, queue.length - 1);
  }
  const first = queue.findIndex(({ page }) => page !== undefined && page.id === named);
  return Math.max(first, 0);
}

/** How many wait by title, the most first. */
export function byTitle(queue: readonly Waiting[]): { title: string; count: number; at: number }[] {
  const found = new Map<string, { title: string; count: number; at: number }>();
  queue.forEach(({ finding: { title } }, at) => {
    const one = found.get(title);
    if (one) one.count += 1;
    else found.set(title, { title, count: 1, at });
  });
  return [...found.values()].sort((one, other) => other.count - one.count);
}

export type Rect = readonly [left: number, top: number, width: number, height: number];

/** The part of a picture that is shown at one pixel to one around a spot: as large as there is room, within the picture. */
export function around(spot: Rect, size: readonly [number, number], room: readonly [number, number]): Rect {
  const [width, height] = [Math.min(room[0], size[0]), Math.min(room[1], size[1])];
  const clamp = (middle: number, length: number, of: number) =>
    Math.round(Math.max(0, Math.min(of - length, middle - length / 2)));
  return [
    clamp(spot[0] + spot[2] / 2, width, size[0]),
    clamp(spot[1] + spot[3] / 2, height, size[1]),
    Math.round(width),
    Math.round(height),
  ];
}
