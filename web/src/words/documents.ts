/** Where documents begin, in words. */

import type { Stack } from '@/api/types';

type Rule = Pick<Stack, 'new_document_after' | 'pages_a_document'>;
/** What can be chosen; pages that are counted come as each, or as several. */
export type Begins = Exclude<Stack['new_document_after'], 'number of pages'> | 'each page' | 'pages';

export const MOST_PAGES = 10_000;

export const BEGINS: readonly { value: Begins; label: string; means: string }[] = [
  {
    value: 'separator sheets',
    label: 'separator sheets',
    means: 'A new document begins after each printed separator sheet, and where you set a break.',
  },
  {
    value: 'blank pages',
    label: 'separators and blank pages',
    means: 'Every blank page begins one too: for sheets captured on one side.',
  },
  {
    value: 'blank sheets',
    label: 'separators and blank sheets',
    means: 'A sheet that is blank on both sides begins one too: for sheets captured on both sides.',
  },
  { value: 'each page', label: 'every page', means: 'Each page is a document of its own.' },
  {
    value: 'pages',
    label: 'every few pages',
    means: 'So many pages make a document. What is aside is not counted; a break or a separator begins to count anew.',
  },
];

export const beginsOf = ({ new_document_after: after, pages_a_document: pages }: Rule): Begins =>
  after !== 'number of pages' ? after : pages === 1 ? 'each page' : 'pages';

export const ruleOf = (begins: Begins, pages: number): Rule =>
  begins === 'each page' || begins === 'pages'
    ? { new_document_after: 'number of pages', pages_a_document: begins === 'pages' ? Math.max(2, pages) : 1 }
    : { new_document_after: begins, pages_a_document: 1 };
