/** What a search has found, in words. */

import type { SearchAnswer, ThingFound } from '@/api/types';
import type { Asked } from '@/engine/search/asked';
import { STATEMENT_WORDS } from './describing';
import { count, counted } from './figures';

export const KIND_WORDS: Record<Asked['kind'], string> = {
  everything: 'Everything',
  pages: 'Pages',
  documents: 'Documents',
  stacks: 'Stacks',
};

export const THING_WORDS: Record<ThingFound['kind'], string> = {
  stack: 'Stack',
  document: 'Document',
  planned: 'Not bound yet',
};

/** What is said of something: which it is, and its words. */
export const statementWords = ({ name, words }: { name: string; words: string }) =>
  name === 'name' ? `delivered as ${words}` : `${(STATEMENT_WORDS[name] ?? name).toLowerCase()} ${words}`;

/** How much there is. */
export function foundWords({ things, things_count: all, pages, count: of, more }: SearchAnswer): string {
  const first = things.length < all ? ` (the first ${count(things.length)} here)` : '';
  const parts = [
    ...(all ? [`${count(all)} by name or description${first}`] : []),
    ...(more ? [`more than ${counted(of, 'page')}`] : pages.length ? [counted(of, 'page')] : []),
  ];
  return parts.join(', ') || 'Nothing holds that';
}
