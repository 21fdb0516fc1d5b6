/** The documents that the pages of a stack will make; where they begin is told by the server. */

import type { PageRow } from '@/api/types';

/** The pages of a document to come: at least one. */
export type Coming = readonly PageRow[];

/** Runs of pages that are ready, each from one page with which a document begins to the next. */
export function comingOf(pages: readonly PageRow[], starts: readonly number[]): Coming[] {
  const begins = new Set(starts);
  const found: PageRow[][] = [];
  let open: PageRow[] | undefined;
  for (const page of pages) {
    if (begins.has(page.id) || page.breaks) open = undefined;
    if (page.state !== 'ready') continue;
    if (!open) {
      open = [];
      found.push(open);
    }
    open.push(page);
  }
  return found;
}
