/** Links to documents, in words. */

import type { Share } from '@/api/types';
import { day } from './figures';

export const RIGHT_WORDS: Record<Share['right'], string> = {
  look: 'look',
  take: 'look and take',
  mend: 'look, take and put right',
};

/** How long a link leads there. */
export function endWords({ ended, ends_at, withdrawn_at }: Pick<Share, 'ended' | 'ends_at' | 'withdrawn_at'>): string {
  if (withdrawn_at) return 'withdrawn';
  // It ends with the day before the moment that is kept.
  const last = ends_at && day(new Date(Date.parse(ends_at) - 1).toISOString());
  if (ended) return `ended ${last}`;
  return last ? `until ${last}` : 'without an end';
}
