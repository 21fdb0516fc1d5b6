/** The table of descriptions: what a cell holds, what a document says after it was typed in, and filling down. */

import type { Said } from '@/api/describing';
import type { Descriptions, DraftDocument, ToDescribe } from '@/api/types';
import { listed, parted } from '@/words/binding';
import type { Column } from '@/words/describing';

const LISTS: ReadonlySet<Column> = new Set(['creators', 'subjects', 'relations']);

/** What stands in a cell. */
export function cellOf({ title, described }: DraftDocument, column: Column): string {
  const value = column === 'title' ? title : described[column];
  return listed(value);
}

/** What is said of a document once a cell holds a text. */
export function saidWith(said: DraftDocument, column: Column, text: string): DraftDocument {
  const plain = text.trim().replace(/\s+/g, ' ');
  if (column === 'title') return { ...said, title: plain };
  const { [column]: _, ...rest } = said.described;
  const value = LISTS.has(column) ? parted(plain) : plain;
  return { ...said, described: value.length ? { ...rest, [column]: value } : rest };
}

/** What was said of that of which something is said now: saying it again undoes it. */
export function saidBefore({ stack, documents }: Pick<Descriptions, 'stack' | 'documents'>, said: Said): Said {
  const same = documents.filter(({ page }) => said.documents && String(page) in said.documents);
  return {
    ...(said.documents ? { documents: Object.fromEntries(same.map((one) => [String(one.page), one.said])) } : {}),
    ...(said.stack ? { stack } : {}),
  };
}

/** What filling down changes: a document and the next one, or all behind it, get a text; by the pages that they begin with. */
export function filledDown(
  documents: readonly ToDescribe[],
  at: number,
  column: Column,
  far: 'next' | 'all',
  text: string,
): Record<string, DraftDocument> {
  const to = documents.slice(at, far === 'next' ? at + 2 : undefined);
  return Object.fromEntries(
    to
      .map((one) => [one, saidWith(one.said, column, text)] as const)
      .filter(([one, said]) => cellOf(one.said, column) !== cellOf(said, column))
      .map(([one, said]) => [String(one.page), said]),
  );
}
