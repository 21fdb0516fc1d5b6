import type { ReactNode } from 'react';
import { Button } from './Button';

/** The middle of an empty view: what belongs here, and how to get it; a few lines of a fore-edge that is not there yet. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-full flex-col items-center justify-center gap-3 p-8 text-center">
      <svg viewBox="0 0 64 40" className="mb-1 w-16 text-control" aria-hidden="true">
        <path
          d="M2 5h60M2 13h60M2 21h60M2 29h60M2 37h60"
          stroke="currentColor"
          strokeWidth="2"
          strokeDasharray="2 3"
          fill="none"
        />
      </svg>
      <h2 className="text-title font-semibold">{title}</h2>
      <div className="flex max-w-[52ch] flex-col items-center gap-4">{children}</div>
    </div>
  );
}

/** A list that could not be loaded. */
export function Failed({ message, retry }: { message: string; retry: () => void }) {
  return (
    <div role="alert" className="flex h-full flex-1 flex-col items-center justify-center gap-4 p-8 text-center">
      <p className="max-w-[52ch]">{message}</p>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}

/** Room held for what is being loaded, so that nothing jumps. */
export function Loading({ label, className = '' }: { label: string; className?: string }) {
  return (
    <output aria-label={label} className={`block animate-pulse rounded-sm bg-hairline/60 ${className}`}>
      <span className="sr-only">{label}</span>
    </output>
  );
}
