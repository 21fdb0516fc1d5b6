import { useQuery } from '@tanstack/react-query';
import { type PointerEvent, useRef, useState } from 'react';
import { pageQuery } from '../../../api/queries';
import type { Doing, PageRow } from '../../../api/types';
import { useCommands } from '../../../commands/useCommands';
import { figure } from '../../../format';
import { type Point, type Turn, turned, turnedSize, unturned } from '../../../geometry/turned';
import { Button } from '../../../parts/Button';
import { Failed, Loading } from '../../../parts/States';

export type SplitViewProps = { page: PageRow; onSplit: (doing: Doing) => void; onLeave: () => void };

/** Where the line meets the top and the bottom edge, as shares of the width. */
type Line = { top: number; bottom: number };
const STEP = 0.001;
const inside = (share: number) => Math.max(0.02, Math.min(0.98, share));

type Fold = readonly (readonly number[])[] | null | undefined;

/** The measured fold as a line from edge to edge of the upright image. */
function foldOf(fold: Fold, captured: [number, number] | null, turn: Turn): Line | undefined {
  if (!fold || !captured) return undefined;
  const [width, height] = turnedSize(captured, turn);
  const [[x1, y1], [x2, y2]] = fold.map(([x = 0, y = 0]) => turned([x, y], captured, turn)) as [Point, Point];
  if (Math.abs(y2 - y1) < height / 2) return undefined; // the page was turned by hand: it no longer lies that way
  const at = (y: number) => inside((x1 + ((x2 - x1) * (y - y1)) / (y2 - y1)) / width);
  return { top: at(0), bottom: at(height) };
}

/** An image that shows two pages, upright, with a line to drag to where one ends and the other begins. */
export function SplitView({ page, onSplit, onLeave }: SplitViewProps) {
  const { data, error, refetch } = useQuery(pageQuery(page.id, String(page.change)));
  const [moved, setLine] = useState<Line>();
  const [held, setHeld] = useState<'top' | 'bottom' | 'both'>();
  const picture = useRef<HTMLDivElement>(null);
  const turn = (data?.plan?.turn ?? 0) as Turn;
  const captured = page.original_px as [number, number] | null;
  // Until it is moved, the line lies where the fold was measured, if one was.
  const line = moved ?? foldOf(data?.measurements?.gutter, captured, turn) ?? { top: 0.5, bottom: 0.5 };

  const shift = (top: number, bottom: number) =>
    setLine({ top: inside(line.top + top), bottom: inside(line.bottom + bottom) });
  const split = () => {
    if (!captured || !data) return;
    const [width, height] = turnedSize(captured, turn);
    const [start, end] = [
      unturned([line.top * width, 0], captured, turn),
      unturned([line.bottom * width, height], captured, turn),
    ];
    const rounded = ([x, y]: Point): [number, number] => [Math.round(x), Math.round(y)];
    onSplit({ do: 'split', page: page.id, start: rounded(start), end: rounded(end) });
  };
  const nudge = (name: string, label: string, key: string, top: number, bottom: number) => [
    { name, label, key, perform: () => shift(top * STEP, bottom * STEP) },
    {
      name: `${name} far`,
      label: `${label}, ten times as far`,
      key: `Shift+${key}`,
      perform: () => shift(top * STEP * 10, bottom * STEP * 10),
    },
  ];
  useCommands([
    ...nudge('line left', 'Split line to the left', 'ArrowLeft', -1, -1),
    ...nudge('line right', 'Split line to the right', 'ArrowRight', 1, 1),
    ...nudge('line tilt left', 'Tilt the split line to the left', 'ArrowUp', -1, 1),
    ...nudge('line tilt right', 'Tilt the split line to the right', 'ArrowDown', 1, -1),
    { name: 'split here', label: 'Split here', key: 'Enter', enabled: !!data, perform: split },
    { name: 'leave', label: 'Leave it whole', key: 'Escape', perform: onLeave },
  ]);

  const move = (event: PointerEvent<HTMLElement>) => {
    const box = picture.current?.getBoundingClientRect();
    if (!held || !box) return;
    const share = inside((event.clientX - box.left) / box.width);
    if (held === 'both') {
      const at = (event.clientY - box.top) / box.height;
      const by = share - (line.top + (line.bottom - line.top) * at);
      shift(by, by);
    } else setLine({ ...line, [held]: share });
  };
  const hold = (what: 'top' | 'bottom' | 'both') => (event: PointerEvent<Element>) => {
    event.preventDefault();
    event.currentTarget.setPointerCapture(event.pointerId);
    setHeld(what);
  };

  if (error) return <Failed message={error.message} retry={() => refetch()} />;
  if (!data || !captured) return <Loading label="Loading the page" className="m-6 flex-1 opacity-40" />;
  const [width, height] = turnedSize(captured, turn);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        className="flex min-h-0 flex-1 items-center justify-center p-6"
        onPointerMove={move}
        onPointerUp={() => setHeld(undefined)}
        onPointerCancel={() => setHeld(undefined)}
      >
        <div
          ref={picture}
          className="relative max-h-full max-w-full"
          style={{
            aspectRatio: `${width} / ${height}`,
            height: width > height ? 'auto' : '100%',
            width: width > height ? '100%' : 'auto',
          }}
        >
          <img
            src={`/iiif/measure/${page.original}/full/!1400,1400/${turn}/default.jpg`}
            alt={`Page ${page.number} as captured`}
            draggable={false}
            className="absolute inset-0 size-full"
          />
          <svg
            viewBox="0 0 1000 1000"
            preserveAspectRatio="none"
            className="absolute inset-0 size-full overflow-visible"
            role="img"
            aria-label={`Split line at ${figure(line.top * 100, 1, '%')} of the width above and ${figure(line.bottom * 100, 1, '%')} below`}
          >
            <line
              x1={line.top * 1000}
              y1={0}
              x2={line.bottom * 1000}
              y2={1000}
              stroke="var(--color-paper)"
              strokeWidth="4"
              vectorEffect="non-scaling-stroke"
            />
            <line
              x1={line.top * 1000}
              y1={0}
              x2={line.bottom * 1000}
              y2={1000}
              stroke="var(--color-accent)"
              strokeWidth="2"
              vectorEffect="non-scaling-stroke"
            />
            <line
              x1={line.top * 1000}
              y1={0}
              x2={line.bottom * 1000}
              y2={1000}
              stroke="transparent"
              strokeWidth="16"
              vectorEffect="non-scaling-stroke"
              className="cursor-ew-resize touch-none"
              onPointerDown={hold('both')}
            />
          </svg>
          {(['top', 'bottom'] as const).map((end) => (
            <span
              key={end}
              onPointerDown={hold(end)}
              data-testid={`split-${end}`}
              className={`absolute size-4 -translate-x-1/2 cursor-ew-resize touch-none rounded-full border-2 border-paper bg-accent ${end === 'top' ? '-top-2' : '-bottom-2'}`}
              style={{ left: `${line[end] * 100}%` }}
            />
          ))}
        </div>
      </div>
      <div className="flex shrink-0 items-center gap-3 border-t border-strong-line bg-board px-3 py-1.5">
        <span>Drag the line to where one page ends: ← → move it, ↑ ↓ tilt it, Shift goes ten times as far.</span>
        <span className="ml-auto font-mono">{figure(((line.top + line.bottom) / 2) * 100, 1, '%')}</span>
        <Button onClick={onLeave}>Leave it whole</Button>
        <Button kind="main" onClick={split}>
          Split here
        </Button>
      </div>
    </div>
  );
}
