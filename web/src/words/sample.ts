/** Samples in words. */

import type { PlanAhead, Worst } from '@/api/types';

export const SEVERITIES: Record<PlanAhead['plan']['severity'], string> = {
  normal: 'Normal inspection',
  tightened: 'Tightened inspection',
  reduced: 'Reduced inspection',
};

/** What is said of a page, and the letter that stands for it where there is little room. */
export const CLASSES: Record<Worst, { label: string; sign: string }> = {
  '': { label: 'Good', sign: '✓' },
  minor: { label: 'Minor defect', sign: 'n' },
  major: { label: 'Major defect', sign: 'M' },
  critical: { label: 'Critical defect', sign: 'C' },
};
