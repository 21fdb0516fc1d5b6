import { memo } from 'react';

export type GaugeProps = {
  label: string;
  /** This page's value; null while it is not known. */
  value: number | null;
  /** The same measurement of every page of the stack. */
  fellows: readonly number[];
  shown: string;
  note?: string | undefined;
};

const WIDTH = 232;
const HEIGHT = 26;

/** One measurement as a small scale, with the whole stack's distribution behind this page's mark. */
export const Gauge = memo(function Gauge({ label, value, fellows, shown, note }: GaugeProps) {
  const { bars, low, high } = distribution(fellows, 40);
  const at = value === null || high <= low ? null : ((value - low) / (high - low)) * (WIDTH - 4) + 2;
  return (
    <div className="flex flex-col gap-0.5">
      <div className="flex items-baseline justify-between gap-2">
        <span className="text-small text-soft">{label}</span>
        <span className="font-mono ">{shown}</span>
      </div>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="w-full" aria-hidden="true">
        <path d={`M0 ${HEIGHT - 0.5}H${WIDTH}`} className="stroke-control" />
        {bars.map((height, index) => (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: a bar is its place on the scale
            key={index}
            x={(index * WIDTH) / bars.length}
            width={WIDTH / bars.length - 0.6}
            y={HEIGHT - 1 - height * (HEIGHT - 8)}
            height={height * (HEIGHT - 8)}
            className="fill-hairline"
          />
        ))}
        {at !== null && <path d={`M${at} 0V${HEIGHT}`} className="stroke-accent" strokeWidth="2.5" />}
      </svg>
      {note && <p className="text-small text-soft">{note}</p>}
    </div>
  );
});

/** Shares of the values in equal bins, the fullest 1; the ends of the scale leave a little room. */
export function distribution(values: readonly number[], bins: number): { bars: number[]; low: number; high: number } {
  if (values.length === 0) return { bars: [], low: 0, high: 0 };
  const least = Math.min(...values);
  const most = Math.max(...values);
  const room = Math.max((most - least) * 0.04, Math.abs(most) * 0.01, 1e-6);
  const low = least - room;
  const high = most + room;
  const counts = new Array<number>(bins).fill(0);
  for (const value of values) {
    const bin = Math.min(bins - 1, Math.floor(((value - low) / (high - low)) * bins));
    counts[bin] = (counts[bin] ?? 0) + 1;
  }
  const fullest = Math.max(...counts);
  return { bars: counts.map((count) => (count === 0 ? 0 : 0.15 + (0.85 * count) / fullest)), low, high };
}
