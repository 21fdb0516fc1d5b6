/** Findings in words. */

import type { InspectFinding } from '@/api/types';

/** Where something is put right, as a button says it; nothing where no view does that. */
export const REMEDIES: Record<InspectFinding['remedy'], string> = {
  bench: 'Put right',
  again: 'Try again',
  text: 'Look at the text',
  order: 'Arrange',
  recapture: 'To the bench',
  aside: '',
  '': '',
};
