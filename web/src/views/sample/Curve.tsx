import { inHundred, lineOf, type Curve as Points, pointNear } from '@/engine/inspect/sample';

const WIDE = 460;
const HIGH = 220;
const LEFT = 44;
const BELOW = 40;

/** The chance that a lot passes over the share of its pages that is bad. */
export function Curve({ points, aql }: { points: Points; aql: string }) {
  const most = points[points.length - 1]?.[0] ?? 0;
  if (!most) return null;
  const across = (share: number) => (share / most) * WIDE;
  const [limit, passes] = pointNear(points, Number(aql) / 100);
  const ticks = [0, 1, 2, 3, 4].map((at) => (at * most) / 4);
  return (
    <svg
      viewBox={`${-LEFT} -10 ${WIDE + LEFT + 20} ${HIGH + BELOW + 10}`}
      role="img"
      aria-label="The chance that a stack passes, over the share of bad pages"
      className="w-full max-w-[34rem] font-mono text-ink"
    >
      {[0, 0.25, 0.5, 0.75, 1].map((chance) => (
        <g key={chance}>
          <line
            x1={0}
            x2={WIDE}
            y1={(1 - chance) * HIGH}
            y2={(1 - chance) * HIGH}
            stroke="var(--color-hairline)"
            strokeWidth={1}
          />
          <text x={-8} y={(1 - chance) * HIGH + 4} textAnchor="end" fontSize={12} fill="var(--color-soft)">
            {100 * chance}%
          </text>
        </g>
      ))}
      {ticks.map((share) => (
        <text key={share} x={across(share)} y={HIGH + 18} textAnchor="middle" fontSize={12} fill="var(--color-soft)">
          {inHundred(share)}
        </text>
      ))}
      <text x={WIDE / 2} y={HIGH + 36} textAnchor="middle" fontSize={12} fill="var(--color-soft)" className="font-sans">
        bad pages in 100
      </text>
      <line
        x1={across(limit)}
        x2={across(limit)}
        y1={0}
        y2={HIGH}
        stroke="var(--color-control)"
        strokeDasharray="3 3"
        strokeWidth={1}
      />
      <path d={lineOf(points, WIDE, HIGH)} fill="none" stroke="var(--color-accent)" strokeWidth={2.5} />
      <circle cx={across(limit)} cy={(1 - passes) * HIGH} r={4.5} fill="var(--color-accent)" />
      <text x={across(limit) + 10} y={(1 - passes) * HIGH - 2} fontSize={12} fill="var(--color-ink)">
        {Math.round(100 * passes)}% at {inHundred(limit)}
      </text>
    </svg>
  );
}
