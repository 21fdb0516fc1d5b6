/** The shelf in words. */

import type { Collection } from '@/api/types';
import type { At, ShelfAsked } from '@/engine/shelf/asked';

export const AT_WORDS: Record<At, string> = {
  everything: 'All stacks',
  waiting: 'Needs mending',
  inspect: 'Findings to judge',
  working: 'Being worked on',
  unbound: 'Ready to bind',
  undelivered: 'Deliveries to decide on',
  bound: 'Bound',
  signed: 'Signed for',
  closed: 'Closed',
};

export const SORT_WORDS: Record<ShelfAsked['sort'], string> = {
  opened: 'You opened last',
  touched: 'Last worked on',
  begun: 'Newest',
  name: 'By name',
  pages: 'Most pages',
};

export const SPAN_WORDS: Record<ShelfAsked['span'], string> = {
  0: 'Begun at any time',
  1: 'Begun today',
  7: 'Begun in 7 days',
  30: 'Begun in 30 days',
  365: 'Begun in 365 days',
};

export const LEVEL_WORDS: Record<Collection['level'], string> = {
  '': 'No level',
  fonds: 'Fonds',
  series: 'Series',
  box: 'Box',
  folder: 'Folder',
};

/** Where something is filed, from the top of the tree. */
export const pathWords = (names: readonly string[]) => names.join(' › ');
