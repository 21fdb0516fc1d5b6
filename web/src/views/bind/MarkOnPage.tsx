import { useEffect, useRef, useState } from 'react';
import type { PageMark } from '@/api/types';
import { inverse, type Matrix, mapped } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { type MarkBox, moved, sized } from '@/engine/marks';
import { useDrag } from '@/hooks/useDrag';
import { MARKS } from '@/words/binding';

export type MarkOnPageProps = {
  mark: PageMark;
  number: number;
  size: Size;
  toScreen: Matrix;
  may: boolean;
  /** Whether it has the keyboard when it appears. */
  first: boolean;
  onPut: (mark: PageMark) => void;
  onGone: () => void;
};

const LOOKS: Record<PageMark['kind'], string> = {
  cover: 'bg-lid',
  highlight: 'bg-review/40 mix-blend-multiply',
  frame: 'border-2 border-mark outline-1 outline-paper',
  note: 'border-2 border-dashed border-mark bg-paper/70',
};
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** What is done by keys is kept once hands are still. */
const STILL_MS = 500;

/** Names the field of a mark's words, and the mark itself on the page. */
export const fieldOf = ({ id }: PageMark) => `words-${id}`;
export const placeOf = ({ id }: PageMark) => `mark-${id}`;

/** A mark: moved by the pointer or the arrows, made larger at its corner or with Shift, taken away by Delete. */
export function MarkOnPage({ mark, number, size, toScreen, may, first, onPut, onGone }: MarkOnPageProps) {
  const button = useRef<HTMLButtonElement>(null);
  const [held, setHeld] = useState<MarkBox>();
  const latest = useRef<MarkBox>(undefined);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (first) button.current?.focus({ preventScroll: true });
  }, [first]);
  const put = useRef(onPut);
  useEffect(() => {
    put.current = onPut;
  });
  const box = held ?? mark.box;
  const hold = (next: MarkBox) => {
    latest.current = next;
    setHeld(next);
  };
  const keep = () => {
    clearTimeout(timer.current);
    const now = latest.current;
    if (!now) return;
    latest.current = undefined;
    put.current({ ...mark, box: [...now] });
  };
  // Held where it was let go until it is known to be there: nothing jumps back in between.
  const known = mark.box.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: a place that has become known, whichever
  useEffect(() => {
    if (!latest.current) setHeld(undefined);
  }, [known]);
  const keepNow = useRef(keep);
  useEffect(() => {
    keepNow.current = keep;
  });
  // What was just moved is kept when the page is left at once, too.
  useEffect(() => () => keepNow.current(), []);
  const share = (x: number, y: number): readonly [number, number] => {
    const [from, to] = [mapped(inverse(toScreen), [0, 0]), mapped(inverse(toScreen), [x, y])];
    return [(to[0] - from[0]) / size[0], (to[1] - from[1]) / size[1]];
  };
  const by = (change: typeof moved) =>
    ({
      onGrasp: () => (may ? true : undefined),
      onDrag: (_: true, event: { clientX: number; clientY: number }, [x, y]: readonly [number, number]) =>
        hold(change(latest.current ?? box, ...share(event.clientX - x, event.clientY - y))),
      onRelease: keep,
    }) as const;
  const move = useDrag<true>(by(moved));
  const enlarge = useDrag<true>(by(sized));
  const [left, top] = mapped(toScreen, [box[0] * size[0], box[1] * size[1]]);
  const [right, bottom] = mapped(toScreen, [box[2] * size[0], box[3] * size[1]]);
  return (
    <button
      ref={button}
      id={placeOf(mark)}
      type="button"
      aria-label={`${MARKS[mark.kind]} ${number}${mark.text ? `: ${mark.text}` : ''}`}
      aria-description={
        may
          ? `Arrows move it, with Shift they make it larger or smaller; Delete takes it away${mark.kind === 'cover' ? '' : '; Enter leads to its words'}.`
          : undefined
      }
      title={mark.text || undefined}
      className={`group absolute cursor-move touch-none focus-visible:outline-3 focus-visible:outline-offset-2 focus-visible:outline-accent ${LOOKS[mark.kind]}`}
      style={{ left, top, width: Math.max(4, right - left), height: Math.max(4, bottom - top) }}
      {...move}
      onBlur={keep}
      onKeyDown={(event) => {
        if (!may || event.ctrlKey || event.metaKey || event.altKey) return;
        if (event.key === 'Delete' || event.key === 'Backspace') {
          event.preventDefault();
          event.stopPropagation();
          latest.current = undefined;
          return onGone();
        }
        if (event.key === 'Enter' && mark.kind !== 'cover') {
          event.preventDefault();
          event.stopPropagation();
          return document.getElementById(fieldOf(mark))?.focus();
        }
        if (event.key === 'Escape') {
          event.stopPropagation();
          return button.current?.blur();
        }
        const arrow = ARROWS[event.key];
        if (!arrow) return;
        event.preventDefault();
        event.stopPropagation();
        const step = share(arrow[0] * STEP_PX, arrow[1] * STEP_PX);
        hold((event.shiftKey ? sized : moved)(latest.current ?? box, ...step));
        clearTimeout(timer.current);
        timer.current = setTimeout(() => keepNow.current(), STILL_MS);
      }}
    >
      {may && (
        <span
          {...enlarge}
          aria-hidden="true"
          className="absolute -right-2 -bottom-2 size-5 cursor-nwse-resize opacity-0 group-hover:opacity-100 group-focus:opacity-100"
        >
          <span className="absolute inset-1 border-2 border-paper bg-mark outline-1 outline-surround-ink" />
        </span>
      )}
    </button>
  );
}

const STEP_PX = 4;
