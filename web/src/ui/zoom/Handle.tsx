import { type KeyboardEvent, useEffect, useRef } from 'react';
import { inverse, type Matrix, mapped } from '@/engine/geometry/projective';
import type { Point } from '@/engine/geometry/turned';
import { useDrag } from '@/hooks/useDrag';

export type HandleProps = {
  label: string;
  /** In pixels of the image as captured. */
  at: Point;
  toScreen: Matrix;
  round?: boolean;
  /** Whether it has the keyboard when it appears. */
  first?: boolean;
  onDrag: (dx: number, dy: number) => void;
  onKey?: (event: KeyboardEvent) => boolean;
};

const ARROWS: Record<string, Point> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Something to take hold of on the image: by the pointer, or by arrow keys a pixel at a time, with Shift ten. */
export function Handle({ label, at, toScreen, round, first, onDrag, onKey }: HandleProps) {
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (first) button.current?.focus({ preventScroll: true });
  }, [first]);
  const [left, top] = mapped(toScreen, at);
  const back = inverse(toScreen);
  const drag = useDrag<true>({
    onGrasp: () => true,
    onDrag: (_, event, from) => {
      const [before, now] = [mapped(back, from), mapped(back, [event.clientX, event.clientY])];
      onDrag(now[0] - before[0], now[1] - before[1]);
    },
  });
  return (
    <button
      ref={button}
      type="button"
      aria-label={label}
      aria-description={`At ${Math.round(at[0])}, ${Math.round(at[1])} px`}
      className={`absolute size-7 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none active:cursor-grabbing ${round ? 'rounded-full' : ''}`}
      style={{ left, top }}
      {...drag}
      onKeyDown={(event) => {
        const arrow = ARROWS[event.key];
        if (onKey?.(event)) return event.preventDefault();
        if (!arrow || event.ctrlKey || event.metaKey || event.altKey) return;
        event.preventDefault();
        event.stopPropagation();
        const far = event.shiftKey ? 10 : 1;
        // The arrow as it is seen, a pixel of the image long.
        const [x, y] = [mapped(back, [left, top]), mapped(back, [left + arrow[0], top + arrow[1]])];
        const length = Math.hypot(y[0] - x[0], y[1] - x[1]) || 1;
        onDrag(((y[0] - x[0]) / length) * far, ((y[1] - x[1]) / length) * far);
      }}
    >
      <span
        aria-hidden="true"
        className={`mx-auto block size-3 border-2 border-paper bg-mark outline-1 outline-surround-ink ${round ? 'rounded-full' : ''}`}
      />
    </button>
  );
}
