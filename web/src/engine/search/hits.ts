/** What a search has found, as a list to go through: things by name or description first, pages after them. */

import type { PageHit, SearchAnswer, ThingFound } from '@/api/types';

export type Hit =
  | { id: string; href: string; thing: ThingFound }
  | { id: string; href: string; page: PageHit }
  /** What else is found by name or description, not shown yet. */
  | { id: 'rest'; rest: number };

/** So many things stand before the pages, unless all are asked for: whoever looks for a word sees pages at once. */
export const FEW = 4;

export function hitsOf(answers: readonly SearchAnswer[], all: boolean): { things: Hit[]; pages: Hit[] } {
  const find = encodeURIComponent(answers[0]?.find ?? '');
  const things = (answers[0]?.things ?? []).map((thing) => ({
    id: `${thing.kind} ${thing.document ?? thing.page ?? thing.stack}`,
    href: `/stacks/${thing.stack}${thing.page ? `/pages/${thing.page}` : ''}`,
    thing,
  }));
  const pages = answers.flatMap((answer) =>
    answer.pages.map((page) => ({
      id: `page ${page.page}`,
      href: page.line
        ? `/stacks/${page.stack}/text/${page.page}?find=${find}`
        : `/stacks/${page.stack}/pages/${page.page}`,
      page,
    })),
  );
  // One more than a few is shown where the line that offers it would stand.
  if (all || pages.length === 0 || things.length <= FEW + 1) return { things, pages };
  return { things: [...things.slice(0, FEW), { id: 'rest', rest: things.length - FEW }], pages };
}
