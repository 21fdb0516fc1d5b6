import { Link } from 'wouter';
import type { Counts } from '@/api/types';
import { Bar } from '@/ui/Bar';

export type StepsProps = {
  counts: Counts | undefined;
  /** Files that were announced and have not come in. */
  expected: number;
  at: 'intake' | 'pages' | 'bind';
  base: string;
};

/** The way of the work with what has passed each step: navigation and progress in one. */
export function Steps({ counts, expected, at, base }: StepsProps) {
  const pages = counts?.pages ?? 0;
  const failed = counts?.failed ?? 0;
  const readable = pages - (counts?.aside ?? 0) - failed;
  const steps = [
    { label: 'Measured', done: counts?.measured ?? 0, of: pages },
    { label: 'Corrected', done: counts?.corrected ?? 0, of: pages - failed },
    { label: 'Text read', done: counts?.ready ?? 0, of: readable },
  ];
  return (
    <nav aria-label="Steps" className="flex flex-wrap items-stretch gap-x-5">
      <Place href={`${base}/intake`} here={at === 'intake'}>
        <Step label="Intake" done={counts?.opened ?? 0} of={pages + expected} />
      </Place>
      <Place href={base} here={at === 'pages'}>
        {steps.map((step) => (
          <Step key={step.label} {...step} />
        ))}
      </Place>
      <Place href={`${base}/bind`} here={at === 'bind'}>
        <Step label="Bind" done={counts?.ready ?? 0} of={counts?.ready ?? 0} />
      </Place>
    </nav>
  );
}

function Place({ href, here, children }: { href: string; here: boolean; children: React.ReactNode }) {
  return (
    <Link
      href={href}
      aria-current={here ? 'page' : undefined}
      className={`flex min-h-13 items-center gap-5 border-b-3 ${here ? 'border-accent font-semibold' : 'border-transparent text-soft hover:text-ink'}`}
    >
      {children}
    </Link>
  );
}

/** A step: how many have passed it, and of how many while that is not all. */
function Step({ label, done, of }: { label: string; done: number; of: number }) {
  const open = done < of;
  return (
    <span className="flex flex-col">
      <span className="flex items-baseline gap-2 whitespace-nowrap">
        {label}
        <span className="font-mono text-small font-normal">{open ? `${done}/${of}` : done}</span>
      </span>
      {open && <Bar label={label} value={done} max={of} thin />}
    </span>
  );
}
