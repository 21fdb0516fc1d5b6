import { Link } from 'wouter';
import type { Counts } from '@/api/types';
import { cameIn, open, type Step, stepsOf } from '@/engine/steps';
import { Bar } from '@/ui/Bar';
import { count } from '@/words/figures';

export type StepsProps = {
  counts: Counts | undefined;
  /** Files that were announced and have not come in. */
  expected: number;
  at: 'intake' | 'pages' | 'text' | 'inspect' | 'bind' | 'dispatch';
  base: string;
};

/** The way of the work with what has passed each step: navigation and progress in one. */
export function Steps({ counts, expected, at, base }: StepsProps) {
  const steps = stepsOf(counts);
  return (
    <nav aria-label="Steps" className="flex flex-wrap items-stretch gap-x-5">
      <Place href={`${base}/intake`} here={at === 'intake'}>
        <Passed label="Intake" done={cameIn(counts)} of={(counts?.pages ?? 0) + expected} />
      </Place>
      <Place href={base} here={at === 'pages'}>
        {steps.slice(0, -1).map((step) => (
          <Passed key={step.label} {...step} />
        ))}
      </Place>
      <Place href={`${base}/text`} here={at === 'text'}>
        {steps.slice(-1).map((step) => (
          <Passed key={step.label} {...step} />
        ))}
      </Place>
      <Place href={`${base}/inspect`} here={at === 'inspect'}>
        <Passed label="Inspect" done={counts?.inspect ?? 0} of={counts?.inspect ?? 0} />
      </Place>
      <Place href={`${base}/bind`} here={at === 'bind'}>
        <Passed label="Bind" done={counts?.ready ?? 0} of={counts?.ready ?? 0} />
      </Place>
      <Place href={`${base}/dispatch`} here={at === 'dispatch'}>
        <span className="whitespace-nowrap">Dispatch</span>
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
function Passed({ label, done, of }: Step) {
  const going = open({ label, done, of });
  return (
    <span className="flex flex-col">
      <span className="flex items-baseline gap-2 whitespace-nowrap">
        {label}
        <span className="font-mono text-small font-normal">{going ? `${count(done)}/${count(of)}` : count(done)}</span>
      </span>
      {going && <Bar label={label} value={done} max={of} thin />}
    </span>
  );
}
