/** What can stand beside the pages: the one that is looked at, what can be done, what is worth a look, what was done. */

export type Side = 'page' | 'arrange' | 'checks' | 'history';

export const SIDES: { value: Side; label: string; name: string }[] = [
  { value: 'page', label: 'Page', name: 'Measured' },
  { value: 'arrange', label: 'Arrange', name: 'Arrange' },
  { value: 'checks', label: 'Checks', name: 'Checks' },
  { value: 'history', label: 'History', name: 'History' },
];

export const NEXT_SIDE: Record<Side, Side> = { page: 'arrange', arrange: 'checks', checks: 'history', history: 'page' };
