import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import type { Adjustments } from '@/api/bench';
import { figure } from '@/words/figures';

export type HistogramProps = {
  shares: readonly number[] | undefined;
  adjust: Adjustments;
  onChange: (adjust: Adjustments) => void;
};

type Point = 'black' | 'gamma' | 'white';
const HIGH = 64;
const LEAST_SPAN = 5;
const NAMES: Record<Point, string> = { black: 'Black point', gamma: 'Middle tones', white: 'White point' };

/** Tones of the page before they are set, and the three points to drag: black, the middle, white. */
export function Histogram({ shares, adjust, onChange }: HistogramProps) {
  const box = useRef<HTMLDivElement>(null);
  const { black, white, gamma } = adjust;
  // The middle point lies where the tone is that becomes middle grey.
  const middle = black + (white - black) * 0.5 ** gamma;
  const places: Record<Point, number> = { black, gamma: middle, white };
  const put = (point: Point, place: number) => {
    const at = Math.max(0, Math.min(100, place));
    if (point === 'black') onChange({ ...adjust, black: tidy(Math.min(at, 90, white - LEAST_SPAN)) });
    if (point === 'white') onChange({ ...adjust, white: tidy(Math.max(at, 10, black + LEAST_SPAN)) });
    if (point === 'gamma') {
      const share = Math.max(0.03, Math.min(0.87, (at - black) / (white - black)));
      onChange({
        ...adjust,
        gamma: Math.round(100 * Math.max(0.2, Math.min(5, Math.log(share) / Math.log(0.5)))) / 100,
      });
    }
  };
  const drag = (point: Point) => (event: PointerEvent) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId) || !box.current) return;
    const { left, width } = box.current.getBoundingClientRect();
    put(point, ((event.clientX - left) / width) * 100);
  };
  const key = (point: Point) => (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    put(point, places[point] + step * (event.shiftKey ? 10 : 1));
  };
  return (
    <div>
      <div ref={box} className="relative border-b border-hairline bg-panel" style={{ height: HIGH }}>
        <svg viewBox={`0 0 64 ${HIGH}`} preserveAspectRatio="none" className="size-full" aria-hidden="true">
          <path d={bars(shares ?? [])} className="fill-control" />
        </svg>
        {(Object.keys(NAMES) as Point[]).map((point) => (
          <button
            key={point}
            type="button"
            role="slider"
            aria-label={NAMES[point]}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(places[point])}
            aria-valuetext={point === 'gamma' ? figure(gamma, 2) : figure(adjust[point], 0, '%')}
            className="absolute top-0 h-[calc(100%+10px)] w-3.5 -translate-x-1/2 cursor-ew-resize touch-none"
            style={{ left: `${places[point]}%` }}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={drag(point)}
            onKeyDown={key(point)}
          >
            <span aria-hidden="true" className="mx-auto block h-[calc(100%-10px)] w-px bg-accent" />
            <span
              aria-hidden="true"
              className={`mx-auto block size-2.5 rotate-45 border border-ink ${{ black: 'bg-ink', gamma: 'bg-surround', white: 'bg-paper' }[point]}`}
            />
          </button>
        ))}
      </div>
      <div className="mt-3 flex justify-between font-mono text-small text-soft">
        <span>{figure(black, 0, '%')}</span>
        <span>{figure(gamma, 2)}</span>
        <span>{figure(white, 0, '%')}</span>
      </div>
    </div>
  );
}

const tidy = (value: number) => Math.round(value * 10) / 10;

/** The bars as one shape. Their heights are roots, so that a little ink is seen beside much paper. */
function bars(shares: readonly number[]): string {
  const most = Math.max(0.0001, ...shares.slice(1, -1));
  const high = (share: number) => Math.sqrt(Math.min(1, share / most)) * (HIGH - 4);
  return shares.map((share, index) => `M${index} ${HIGH}v${-high(share)}h1.02V${HIGH}Z`).join('');
}
