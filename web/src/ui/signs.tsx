/** Small signs that stand in controls; none of them says anything that is not said in words too. */

const line = {
  fill: 'none',
  stroke: 'currentColor',
  strokeWidth: 1.6,
  strokeLinecap: 'round',
  strokeLinejoin: 'round',
} as const;

export const Chevron = ({ className = '' }: { className?: string }) => (
  <svg viewBox="0 0 12 12" className={`size-3 shrink-0 ${className}`} aria-hidden="true">
    <path d="m2.5 4.5 3.5 3.5 3.5-3.5" {...line} />
  </svg>
);

export const Tick = () => (
  <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
    <path d="M2 6.4 4.8 9.2 10 3.2" {...line} />
  </svg>
);

export const Cross = () => (
  <svg viewBox="0 0 12 12" className="size-3" aria-hidden="true">
    <path d="m3 3 6 6M9 3 3 9" {...line} />
  </svg>
);

/** The mark of the house: a small pile seen from its fore-edge, with one line missing. */
export const Stacked = ({ className = 'size-6' }: { className?: string }) => (
  <svg viewBox="0 0 16 16" className={className} aria-hidden="true">
    <path fill="currentColor" d="M1 2h14v1.7H1zm0 3.2h10v1.7H1zm0 3.2h12v1.7H1zm0 3.2h6v1.7H1z" />
  </svg>
);
