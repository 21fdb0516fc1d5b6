import type { Counts } from '@/api/types';

export type Step = { label: string; done: number; of: number };

/** What the pages of a stack go through, and how many of those that can have passed it: failed pages hold nothing up. */
export function stepsOf(counts: Counts | undefined): Step[] {
  const { pages, failed, aside, measured, corrected, ready } = counts ?? NOTHING;
  return [
    { label: 'Measured', done: measured, of: pages - failed },
    { label: 'Corrected', done: corrected, of: pages - failed },
    { label: 'Text read', done: ready, of: pages - aside - failed },
  ];
}

/** How many pages are in: those that were opened, and those that failed, at whichever step. */
export const cameIn = (counts: Counts | undefined): number => (counts ? counts.opened + counts.failed : 0);

/** Whether pages still have to pass it. */
export const open = ({ done, of }: Step): boolean => done < of;

/**
 * What has come to its end between two counts: what somebody who does not see the figures wants to hear of, and not every figure on
 * the way there.
 */
export function ended(before: Counts, now: Counts): string {
  if (now.pages === 0) return '';
  const were = stepsOf(before);
  const said = stepsOf(now).flatMap((step, place) => {
    const was = were[place];
    return was && open(was) && !open(step)
      ? [`${step.label}: ${step.done === 1 ? '1 page' : `all ${step.done} pages`}.`]
      : [];
  });
  const failed = now.failed - before.failed;
  if (failed > 0) said.push(`${failed === 1 ? '1 page has' : `${failed} pages have`} failed.`);
  return said.join(' ');
}

const NOTHING: Counts = {
  pages: 0,
  opened: 0,
  measured: 0,
  corrected: 0,
  read: 0,
  aside: 0,
  failed: 0,
  ready: 0,
  inspect: 0,
};
