import type { ReactNode } from 'react';
import { Button } from './Button';

/** The middle of an empty view: what belongs here, and how to get it. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-full flex-col items-center justify-center gap-3 p-8 text-center">
      <h2 className="text-title font-semibold">{title}</h2>
      <div className="max-w-[52ch] text-body">{children}</div>
    </div>
  );
}

/** A list that could not be loaded. */
export function Failed({ message, retry }: { message: string; retry: () => void }) {
  return (
    <div role="alert" className="flex h-full flex-col items-center justify-center gap-3 p-8 text-center">
      <p className="max-w-[52ch] text-body">{message}</p>
      <Button onClick={retry}>Try again</Button>
    </div>
  );
}

/** Room held for what is being loaded, so that nothing jumps. */
export function Loading({ label, className = '' }: { label: string; className?: string }) {
  return (
    <output aria-label={label} className={`block animate-pulse rounded-sm bg-hover ${className}`}>
      <span className="sr-only">{label}</span>
    </output>
  );
}
