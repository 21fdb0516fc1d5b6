import { Link } from 'wouter';
import type { Counts } from '@/api/types';
import { Bar } from '@/ui/Bar';

export type StepPathProps = { counts: Counts | undefined; at: 'intake' | 'pages' | 'bind'; base: string };

/** The way of the work with what has passed each step: navigation and progress in one. */
export function StepPath({ counts, at, base }: StepPathProps) {
  const pages = counts?.pages ?? 0;
  const readable = pages - (counts?.aside ?? 0) - (counts?.failed ?? 0);
  const steps = [
    { label: 'Measured', done: counts?.measured ?? 0, of: pages },
    { label: 'Corrected', done: counts?.corrected ?? 0, of: pages - (counts?.failed ?? 0) },
    { label: 'Read', done: counts?.ready ?? 0, of: readable },
  ];
  return (
    <nav aria-label="Way of the work" className="flex h-13 shrink-0 border-b border-hairline bg-ground px-4">
      <Place href={`${base}/intake`} here={at === 'intake'}>
        <Step number={1} label="Taken in" done={counts?.opened ?? 0} of={pages} />
      </Place>
      <Place href={base} here={at === 'pages'}>
        {steps.map((step, index) => (
          <Step key={step.label} number={index + 2} {...step} />
        ))}
      </Place>
      <Place href={`${base}/bind`} here={at === 'bind'}>
        <Step number={5} label="Bind" done={counts?.ready ?? 0} />
      </Place>
    </nav>
  );
}

function Place({ href, here, children }: { href: string; here: boolean; children: React.ReactNode }) {
  return (
    <Link
      href={href}
      aria-current={here ? 'page' : undefined}
      className={`mr-4 flex items-stretch gap-6 ${here ? 'shadow-[inset_0_-3px_var(--color-accent)]' : ''}`}
    >
      {children}
    </Link>
  );
}

function Step({ number, label, done, of }: { number: number; label: string; done: number; of?: number }) {
  return (
    <span className="flex w-[148px] flex-col justify-center gap-1.5 text-left">
      <span className="flex items-baseline justify-between gap-2 whitespace-nowrap">
        <span>
          <span className="mr-1.5 font-mono text-soft">{number}</span>
          {label}
        </span>
        <span className="font-mono text-soft">{of === undefined ? done : `${done}/${of}`}</span>
      </span>
      {of === undefined ? <span className="h-1" /> : <Bar label={label} value={done} max={of} />}
    </span>
  );
}
