import type { ReactNode } from 'react';

/** A line above the pages of a stack that says what is to be known of all of it. */
export function Said({ children }: { children: ReactNode }) {
  return (
    <p role="status" className="shrink-0 border-b border-hairline bg-slip px-6 py-1.5">
      {children}
    </p>
  );
}
