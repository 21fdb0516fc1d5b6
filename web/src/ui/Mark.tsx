import type { State, Verdict } from '@/api/types';

export const STATE_WORDS: Record<State, string> = {
  open: 'waits to be opened',
  measure: 'waits to be measured',
  correct: 'waits to be corrected',
  read: 'waits to be read',
  ready: 'ready',
  aside: 'aside',
  failed: 'failed',
};

/** How a page stands, in words: what holds it up comes first. */
export const stateWords = (page: { state: State; trouble: unknown }): string =>
  page.trouble ? 'held up' : STATE_WORDS[page.state];

export type MarkProps = { state: State; verdict: Verdict; className?: string };

/** How a page stands, told by shape alone: solid for failed, hollow for review, a bar for aside, dots while it waits. */
export function Mark({ state, verdict, className = '' }: MarkProps) {
  const label = state === 'ready' && verdict === 'review' ? 'to review' : STATE_WORDS[state];
  return (
    <svg viewBox="0 0 12 12" className={`size-3 shrink-0 ${className}`} role="img" aria-label={label}>
      {shape(state, verdict)}
    </svg>
  );
}

function shape(state: State, verdict: Verdict) {
  if (state === 'failed') return <path d="M1 1h10v10H1z" fill="currentColor" />;
  if (state === 'aside') return <path d="M1 5.2h10v1.6H1z" fill="currentColor" />;
  if (state === 'ready' && verdict === 'review')
    return <path d="M2 2h8v8H2z" fill="none" stroke="currentColor" strokeWidth="1.6" />;
  if (state === 'ready') return <path d="M2 6.4 4.8 9.2 10 3.2" fill="none" stroke="currentColor" strokeWidth="1.6" />;
  return <path d="M2 6h.01M6 6h.01M10 6h.01" stroke="currentColor" strokeWidth="2" strokeLinecap="round" />;
}
