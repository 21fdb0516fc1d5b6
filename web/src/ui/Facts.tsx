import type { ReactNode } from 'react';
import { Tip } from './Tip';

/** A list of facts: what, and how much. */
export function Facts({ children, className = '' }: { children: ReactNode; className?: string }) {
  return <dl className={`grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-small ${className}`}>{children}</dl>;
}

/** One of them; figures stand in the mono face. */
export function Fact({ label, value, tip, words }: { label: string; value: ReactNode; tip?: string; words?: boolean }) {
  return (
    <>
      <dt className="text-soft">{label}</dt>
      <dd className={`min-w-0 text-right [overflow-wrap:anywhere] ${words ? '' : 'font-mono'}`}>
        <Tip text={tip}>
          <span>{value}</span>
        </Tip>
      </dd>
    </>
  );
}
