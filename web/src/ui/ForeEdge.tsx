import { type KeyboardEvent, memo, type PointerEvent, useEffect, useRef } from 'react';
import type { EdgeLine } from '@/api/types';
import { lineAt, PileOnCanvas } from './pile';

export type ForeEdgeProps = {
  lines: readonly EdgeLine[];
  /** 0-based line that is looked at; none on the shelf. */
  current?: number;
  /** Where given, the fore-edge is a selector: click, drag and arrow keys go there. */
  onGo?: (index: number) => void;
  /** Where given, dragging selects the run from one line to another. */
  onRun?: (from: number, to: number) => void;
  /** A line in words, for those who hear it. */
  said?: (index: number) => string;
  /** Lines that are chosen. */
  chosen?: ReadonlySet<number> | undefined;
  className?: string;
};

/** The stack seen from its side: one line a page, as long as the page is tall, as light as it is; a gap where it is
 * aside, a hollow mark beside pages to review, a solid one beside failed ones. */
export const ForeEdge = memo(function ForeEdge(props: ForeEdgeProps) {
  const { lines, current, chosen, said, onGo, onRun, className = '' } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const start = useRef<number>(undefined);
  const last = useRef<number>(undefined);
  const drawing = useRef<PileOnCanvas>(undefined);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const made = new PileOnCanvas(element);
    drawing.current = made;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) made.resize(entry.contentRect.width, entry.contentRect.height);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  useEffect(() => drawing.current?.show({ lines, current, chosen }), [lines, current, chosen]);

  if (!onGo) return <canvas ref={canvas} className={className} />;

  const under = (event: PointerEvent<HTMLCanvasElement>) => {
    const { top, height } = event.currentTarget.getBoundingClientRect();
    return lineAt(event.clientY - top, height, lines.length);
  };
  const drag = (event: PointerEvent<HTMLCanvasElement>) => {
    if (event.buttons !== 1 || start.current === undefined) return;
    const here = under(event);
    if (here === last.current) return;
    last.current = here;
    if (onRun) onRun(start.current, here);
    else onGo(here);
  };
  const step = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1, PageDown: 10, PageUp: -10 }[event.key];
    const to = event.key === 'Home' ? 0 : event.key === 'End' ? lines.length - 1 : by && (current ?? 0) + by;
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const here = Math.max(0, Math.min(lines.length - 1, to));
    if (event.shiftKey && onRun) {
      start.current ??= current ?? 0;
      onRun(start.current, here);
    } else {
      start.current = undefined;
      onGo(here);
    }
  };
  return (
    <canvas
      ref={canvas}
      role="slider"
      tabIndex={0}
      aria-orientation="vertical"
      aria-label="Fore-edge: page of the stack"
      aria-valuemin={1}
      aria-valuemax={Math.max(1, lines.length)}
      aria-valuenow={Math.max(0, current ?? 0) + 1}
      aria-valuetext={current !== undefined && lines[current] ? said?.(current) : 'No page'}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = last.current = under(event);
        onGo(start.current);
      }}
      onPointerMove={drag}
      onKeyDown={step}
      className={`touch-none ${className}`}
    />
  );
});
