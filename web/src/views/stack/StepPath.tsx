import type { Counts } from '../../api/types';
import { Bar } from '../../parts/Bar';

export type StepPathProps = { counts: Counts | undefined; binding: boolean; onPages: () => void; onBind: () => void };

/** The way of the work with what has passed each step: navigation and progress in one. */
export function StepPath({ counts, binding, onPages, onBind }: StepPathProps) {
  const pages = counts?.pages ?? 0;
  const readable = pages - (counts?.aside ?? 0) - (counts?.failed ?? 0);
  const steps = [
    { label: 'Taken in', done: counts?.opened ?? 0, of: pages },
    { label: 'Measured', done: counts?.measured ?? 0, of: pages },
    { label: 'Corrected', done: counts?.corrected ?? 0, of: pages - (counts?.failed ?? 0) },
    { label: 'Read', done: counts?.ready ?? 0, of: readable },
  ];
  return (
    <nav aria-label="Way of the work" className="flex h-13 shrink-0 border-b border-strong-line bg-board px-4">
      <button
        type="button"
        onClick={onPages}
        aria-current={binding ? undefined : 'page'}
        className={`flex items-stretch ${binding ? '' : 'shadow-[inset_0_-3px_var(--color-accent)]'}`}
      >
        {steps.map((step, index) => (
          <span key={step.label} className="flex w-[168px] flex-col justify-center gap-1.5 pr-6 text-left">
            <span className="flex items-baseline justify-between gap-2 whitespace-nowrap">
              <span>
                <span className="mr-1.5 font-mono text-soft-ink">{index + 1}</span>
                {step.label}
              </span>
              <span className="font-mono text-soft-ink">
                {step.done}/{step.of}
              </span>
            </span>
            <Bar label={step.label} value={step.done} max={step.of} />
          </span>
        ))}
      </button>
      <button
        type="button"
        onClick={onBind}
        aria-current={binding ? 'page' : undefined}
        className={`flex w-[168px] flex-col justify-center gap-1.5 pr-6 text-left ${binding ? 'shadow-[inset_0_-3px_var(--color-accent)]' : ''}`}
      >
        <span className="flex items-baseline justify-between gap-2 whitespace-nowrap">
          <span>
            <span className="mr-1.5 font-mono text-soft-ink">5</span>Bind
          </span>
          <span className="font-mono text-soft-ink">{counts?.ready ?? 0}</span>
        </span>
        <span className="h-1" />
      </button>
    </nav>
  );
}
