/** A question across everything, and among what it is asked: as it stands in the address. */

import { type At, collectionIn, STATES } from '@/engine/shelf/asked';

export const KINDS = ['everything', 'pages', 'documents', 'stacks'] as const;

export type Asked = {
  q: string;
  /** Whether words that are one slip away count. */
  forgiving: boolean;
  kind: (typeof KINDS)[number];
  /** What the stacks are at. */
  at: At;
  /** Stacks filed there or under it; null is everywhere, 0 nowhere. */
  collection: number | null;
  station: string;
  /** Years; 0 where none is named. */
  first: number;
  last: number;
};

/** The question that an address holds; what it holds beyond that is left. */
export function askedIn(search: string): Asked {
  const words = new URLSearchParams(search);
  return {
    q: words.get('q') ?? '',
    forgiving: words.has('forgiving'),
    kind: KINDS.find((one) => one === words.get('kind')) ?? 'everything',
    at: STATES.find((one) => one === words.get('at')) ?? 'everything',
    collection: collectionIn(words),
    station: words.get('station') ?? '',
    first: yearIn(words.get('from') ?? ''),
    last: yearIn(words.get('to') ?? ''),
  };
}

/** Where a question is answered. */
export function addressOf({ q, forgiving, kind, at, collection, station, first, last }: Asked): string {
  const words = new URLSearchParams({
    q,
    ...(forgiving ? { forgiving: '' } : {}),
    ...(kind === 'everything' ? {} : { kind }),
    ...(at === 'everything' ? {} : { at }),
    ...(collection === null ? {} : { collection: String(collection) }),
    ...(station ? { station } : {}),
    ...(first ? { from: String(first) } : {}),
    ...(last ? { to: String(last) } : {}),
  });
  return `/search?${words}`;
}

/** How many of the filters are set. */
export const filtersOf = ({ kind, at, collection, station, first, last }: Asked): number =>
  [kind !== 'everything', at !== 'everything', collection !== null, station, first, last].filter(Boolean).length;

/** A year as it is typed; 0 where it is none yet, or none that can be asked for. */
export function yearIn(typed: string): number {
  const year = /^\s*\d{4}\s*$/.test(typed) ? Number(typed) : 0;
  return year >= FIRST && year <= LAST ? year : 0;
}

const FIRST = 1000;
const LAST = 2099;
