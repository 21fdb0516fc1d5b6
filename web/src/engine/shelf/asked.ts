/** Which stacks of the shelf are wanted, and in which order: as it stands in the address. */

import type { Shelf } from '@/api/types';

export const STATES = [
  'everything',
  'waiting',
  'inspect',
  'working',
  'unbound',
  'undelivered',
  'bound',
  'signed',
  'closed',
] as const satisfies readonly (keyof Shelf['at'])[];
export const SORTS = ['opened', 'touched', 'begun', 'name', 'pages'] as const;
/** Days back from today; 0 is any time. */
export const SPANS = [0, 1, 7, 30, 365] as const;

export type At = (typeof STATES)[number];

export type ShelfAsked = {
  at: At;
  named: string;
  /** Filed there or under it; null is everywhere, 0 nowhere. */
  collection: number | null;
  /** Who began it; empty is anybody. */
  by: string;
  /** Begun in the last so many days. */
  span: (typeof SPANS)[number];
  sort: (typeof SORTS)[number];
};

export const ALL: ShelfAsked = { at: 'everything', named: '', collection: null, by: '', span: 0, sort: 'opened' };

/** What an address asks for; what is no such thing is left. */
export function shelfAskedIn(search: string): ShelfAsked {
  const words = new URLSearchParams(search);
  return {
    at: STATES.find((one) => one === words.get('at')) ?? ALL.at,
    named: words.get('named') ?? '',
    collection: collectionIn(words),
    by: words.get('by') ?? '',
    span: SPANS.find((one) => String(one) === words.get('days')) ?? 0,
    sort: SORTS.find((one) => one === words.get('sort')) ?? ALL.sort,
  };
}

/** The collection that an address names; null where it names none. */
export function collectionIn(words: URLSearchParams): number | null {
  const collection = words.get('collection') ?? '';
  return /^\d{1,15}$/.test(collection) ? Number(collection) : null;
}

/** As an address has it, behind the question mark: only what is not as it always is. */
export function searchOf({ at, named, collection, by, span, sort }: ShelfAsked): string {
  return new URLSearchParams({
    ...(at === ALL.at ? {} : { at }),
    ...(named ? { named } : {}),
    ...(collection === null ? {} : { collection: String(collection) }),
    ...(by ? { by } : {}),
    ...(span ? { days: String(span) } : {}),
    ...(sort === ALL.sort ? {} : { sort }),
  }).toString();
}

/** Where the shelf is shown so. */
export function shelfAddress(asked: ShelfAsked): string {
  const search = searchOf(asked);
  return search ? `/?${search}` : '/';
}

/** The first of so many days, today the last, as a date of this place. */
export function since(span: number, today: Date): string | undefined {
  if (!span) return undefined;
  const first = new Date(today.getFullYear(), today.getMonth(), today.getDate() - (span - 1));
  const two = (part: number) => String(part).padStart(2, '0');
  return `${first.getFullYear()}-${two(first.getMonth() + 1)}-${two(first.getDate())}`;
}
