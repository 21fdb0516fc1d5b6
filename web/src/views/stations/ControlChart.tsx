import type { QualityFigure } from '@/api/types';
import { acrossTo, downTo, rangeOf, strays } from '@/engine/chart';
import { figure as number } from '@/words/figures';

const FIELD = { wide: 300, high: 90 };

/** One figure of a station over time: what is usual as a band, what is borne as a broken line, what strays filled. */
export function ControlChart({ figure }: { figure: QualityFigure }) {
  const { title, unit, values, most, least, lower, upper, middle, borne, drift } = figure;
  const range = rangeOf(figure);
  const down = (value: number) => downTo(value, range, FIELD);
  const points = values.map((value, place) => [acrossTo(place, values.length, FIELD), down(value), value] as const);
  const limit = most ?? least;
  const seen = limit !== null && limit > range.least && limit < range.most;
  const last = values[values.length - 1];
  const word = !borne
    ? 'out of tolerance'
    : drift === 'beyond'
      ? 'beyond its limits'
      : drift === 'one side'
        ? 'eight in a row on one side'
        : '';
  return (
    <figure className="flex min-w-0 flex-col gap-1">
      <figcaption className="flex items-baseline justify-between gap-3">
        <span className="min-w-0">
          {title}
          {word && <strong className="ml-2 font-semibold">■ {word}</strong>}
        </span>
        <span className="shrink-0 font-mono">
          {last === undefined ? '–' : number(last, 2, unit)}
          <span className="ml-3 text-small text-soft">
            {most !== null && `≤ ${number(most, 1)}`}
            {least !== null && `≥ ${number(least, 1)}`}
          </span>
        </span>
      </figcaption>
      <svg
        viewBox={`-4 -4 ${FIELD.wide + 8} ${FIELD.high + 8}`}
        role="img"
        aria-label={`${title}: ${values.map((value) => number(value, 2)).join(', ')}`}
        preserveAspectRatio="none"
        className="h-24 w-full border-y border-hairline bg-panel"
      >
        {lower !== null && upper !== null && middle !== null && (
          <>
            <rect
              x={0}
              width={FIELD.wide}
              y={down(upper)}
              height={Math.max(1, down(lower) - down(upper))}
              fill="var(--color-accent-pale)"
            />
            <line x1={0} x2={FIELD.wide} y1={down(middle)} y2={down(middle)} stroke="var(--color-control)" />
          </>
        )}
        {seen && (
          <line
            x1={0}
            x2={FIELD.wide}
            y1={down(limit)}
            y2={down(limit)}
            stroke="var(--color-ink)"
            strokeDasharray="5 4"
          />
        )}
        <polyline
          points={points.map(([x, y]) => `${x},${y}`).join(' ')}
          fill="none"
          stroke="var(--color-accent)"
          strokeWidth={1.5}
        />
        {points.map(([x, y, value]) => (
          <rect
            key={x}
            x={x - 3}
            y={y - 3}
            width={6}
            height={6}
            fill={strays(value, figure) ? 'var(--color-ink)' : 'var(--color-panel)'}
            stroke={strays(value, figure) ? 'var(--color-ink)' : 'var(--color-accent)'}
            strokeWidth={1.5}
          />
        ))}
      </svg>
    </figure>
  );
}
