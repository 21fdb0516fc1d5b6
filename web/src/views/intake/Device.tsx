/** A station as a small drawing: what one lays paper on, or in. */
export function Device({
  source,
  twoSided,
  className = '',
}: {
  source: 'platen' | 'feeder' | 'camera';
  twoSided: boolean;
  className?: string;
}) {
  return (
    <svg
      viewBox="0 0 64 28"
      className={className}
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.4"
    >
      {source === 'camera' ? (
        <>
          <path d="M10 25H54M16 25V4H34" strokeLinejoin="round" />
          <path d="M26 2H42V9H26Z" strokeLinejoin="round" />
          <path d="M31 9 24 21H44L37 9" className="fill-accent-pale" strokeLinejoin="round" />
        </>
      ) : source === 'platen' ? (
        <>
          <path d="M6 25V10L12 3H58V18L52 25Z" strokeLinejoin="round" />
          <path d="M6 10H52L58 3M52 10V25" strokeLinejoin="round" />
          <path d="M11 14H47V21H11Z" className="fill-accent-pale" />
        </>
      ) : (
        <>
          <path d="M8 14H56V25H8Z" strokeLinejoin="round" />
          <path d="M18 14 25 3H47L40 14Z" className="fill-accent-pale" strokeLinejoin="round" />
          <path d="M12 19H52" />
          {twoSided && <path d="M26 22.5 32 27 38 22.5" />}
        </>
      )}
    </svg>
  );
}
