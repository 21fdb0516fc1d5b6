/** What can be said of documents, in words. */

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
