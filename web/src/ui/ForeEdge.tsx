import { type KeyboardEvent, memo, type PointerEvent, useEffect, useRef } from 'react';
import type { EdgeLine } from '@/api/types';

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

const THINNEST = 1;
const THICKEST = 9;

/** The stack seen from its side: one line a page, as long as the page is tall, as light as it is; a gap where it is
 * aside, a hollow mark beside pages to review, a solid one beside failed ones. */
export const ForeEdge = memo(function ForeEdge(props: ForeEdgeProps) {
  const { lines, current, chosen, said, onGo, onRun, className = '' } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const start = useRef<number>(undefined);
  const last = useRef<number>(undefined);
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const draw = () => paint(element, lines, current, chosen);
    draw();
    const observer = new ResizeObserver(draw);
    observer.observe(element);
    return () => observer.disconnect();
  }, [lines, current, chosen]);

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

/** Thickness of a line and the height of the whole pile, in CSS pixels. */
export function pile(height: number, count: number): { pitch: number; total: number } {
  const pitch = count > 0 ? Math.min(THICKEST, Math.max(0.2, height / count)) : THICKEST;
  return { pitch, total: pitch * count };
}

/** The 0-based line at a distance from the top. */
export function lineAt(y: number, height: number, count: number): number {
  const { pitch } = pile(height, count);
  return Math.max(0, Math.min(count - 1, Math.floor(y / pitch)));
}

function paint(
  canvas: HTMLCanvasElement,
  lines: readonly EdgeLine[],
  current: number | undefined,
  chosen: ReadonlySet<number> | undefined,
) {
  const { clientWidth: width, clientHeight: height } = canvas;
  const ratio = window.devicePixelRatio || 1;
  canvas.width = Math.round(width * ratio);
  canvas.height = Math.round(height * ratio);
  const pen = canvas.getContext('2d');
  if (!pen) return;
  pen.scale(ratio, ratio);
  const style = getComputedStyle(canvas);
  const colour = (name: string) => style.getPropertyValue(name);
  const { pitch } = pile(height, lines.length);
  const thickness = Math.max(Math.min(THINNEST, pitch), pitch * 0.72);
  const margin = width > 60 ? 12 : 7;
  const tallest = Math.max(1, ...lines.map((line) => line.height_mm));
  for (const [index, line] of lines.entries()) {
    const y = index * pitch;
    if (chosen?.has(index)) {
      pen.fillStyle = colour('--color-surround-ink');
      pen.fillRect(width - 4, y, 4, Math.max(pitch, 1));
    }
    const length = line.height_mm > 0 ? (width - margin - 2) * (0.28 + 0.72 * (line.height_mm / tallest)) : width * 0.3;
    if (line.state === 'aside') {
      pen.fillStyle = colour('--color-surround-ink');
      pen.fillRect(margin, y + thickness / 2, 3, Math.min(1, thickness));
    } else {
      const tone = line.height_mm > 0 ? line.tone : 110;
      pen.fillStyle = `rgb(${tone} ${tone} ${tone})`;
      pen.fillRect(margin, y, length, thickness);
    }
    if (line.state === 'failed' || line.verdict === 'review') {
      const size = Math.min(6, Math.max(2, thickness));
      pen.fillStyle = colour('--color-surround-ink');
      pen.strokeStyle = colour('--color-surround-ink');
      if (line.state === 'failed') pen.fillRect(2, y + (thickness - size) / 2, size, size);
      else pen.strokeRect(2.5, y + (thickness - size) / 2 + 0.5, size - 1, size - 1);
    }
  }
  if (current !== undefined && lines[current]) {
    // Two lines, one of which is seen on whatever lies beneath.
    const [y, high] = [current * pitch - 1.5, Math.max(4, thickness + 3)];
    pen.lineWidth = 4;
    pen.strokeStyle = colour('--color-paper');
    pen.strokeRect(margin - 2, y, width - margin, high);
    pen.lineWidth = 2;
    pen.strokeStyle = colour('--color-surround-ink');
    pen.strokeRect(margin - 2, y, width - margin, high);
  }
}
