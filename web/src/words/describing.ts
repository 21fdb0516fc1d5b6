/** What can be said of documents, in words. */

import { counted } from './figures';

export const STATEMENT_WORDS: Record<string, string> = {
  title: 'Title',
  creators: 'From',
  subjects: 'Subjects',
  description: 'Description',
  date: 'Date',
  identifier: 'Identifier',
  rights: 'Rights',
  type: 'Type',
  relations: 'Related',
  language: 'Language',
};

/** Of what a file says something new: "the stack and 2 documents". */
export function describedWords(changed: readonly { whole: boolean }[]): string {
  const documents = changed.filter(({ whole }) => !whole).length;
  return [documents < changed.length && 'the stack', documents > 0 && counted(documents, 'document')]
    .filter(Boolean)
    .join(' and ');
}

/** In which order they stand in the table: what is said of nearly all first. */
export const COLUMNS = [
  'title',
  'date',
  'identifier',
  'creators',
  'subjects',
  'description',
  'type',
  'rights',
  'relations',
  'language',
] as const;
export type Column = (typeof COLUMNS)[number];
