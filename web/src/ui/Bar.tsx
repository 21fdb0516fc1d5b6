import { Progress } from 'radix-ui';

export type BarProps = { label: string; value: number; max: number; thin?: boolean; className?: string };

/** Progress as a thin bar; the figure beside it is the caller's. */
export function Bar({ label, value, max, thin, className = '' }: BarProps) {
  const share = max > 0 ? Math.min(1, value / max) : 0;
  return (
    <Progress.Root
      value={Math.round(share * 100)}
      aria-label={label}
      className={`relative block overflow-hidden rounded-sm bg-hairline ${thin ? 'h-0.5' : 'h-1.5'} ${className}`}
    >
      <Progress.Indicator className="absolute inset-y-0 left-0 bg-accent" style={{ width: `${share * 100}%` }} />
    </Progress.Root>
  );
}
