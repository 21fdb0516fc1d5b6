/** The documents that the pages of a stack will make; where they begin is told by the server. */

import type { PageRow } from '@/api/types';

export type Coming = { pages: PageRow[]; bytes: number };

/** Runs of pages that are ready, each from one page with which a document begins to the next. */
export function forecastOf(pages: readonly PageRow[], starts: readonly number[]): Coming[] {
  const begins = new Set(starts);
  const found: Coming[] = [];
  let open: Coming | undefined;
  for (const page of pages) {
    if (begins.has(page.id) || page.breaks) open = undefined;
    if (page.state !== 'ready') continue;
    if (!open) {
      open = { pages: [], bytes: 0 };
      found.push(open);
    }
    open.pages.push(page);
    open.bytes += page.bytes ?? 0;
  }
  return found;
}
