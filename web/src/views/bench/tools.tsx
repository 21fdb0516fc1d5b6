import { useEffect, useRef, useState } from 'react';
import {
  type Handle as Corner,
  dragged,
  HANDLES,
  handleName,
  isPage,
  placeOf,
  tiltOf,
} from '@/engine/geometry/corners';
import { inverse, type Matrix, mapped, type Quad } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';
import { Handle } from './Handle';

type Tool = { toScreen: Matrix; pane: Size };

export type CornersToolProps = Tool & {
  quad: Quad;
  captured: Size;
  onChange: (quad: Quad) => void;
};

/** The page's outline with a handle at each corner and each side. */
export function CornersTool({ toScreen, pane, quad, captured, onChange }: CornersToolProps) {
  const drag = useDragged(quad, captured, onChange);
  return (
    <>
      <Lines pane={pane}>
        <Outline quad={quad} toScreen={toScreen} className="fill-none stroke-accent" width={2} />
      </Lines>
      {HANDLES.map((handle) => (
        <Handle
          key={handle}
          label={handleName(handle)}
          at={placeOf(quad, handle)}
          toScreen={toScreen}
          round={handle > 3}
          first={handle === 0}
          onDrag={(dx, dy) => drag(handle, dx, dy)}
        />
      ))}
    </>
  );
}

/** Hands move more often than the screen is drawn: every movement goes on from the one before it. */
function useDragged(quad: Quad, captured: Size, onChange: (quad: Quad) => void) {
  const latest = useRef(quad);
  useEffect(() => {
    latest.current = quad;
  });
  return (handle: Corner, dx: number, dy: number) => {
    const next = dragged(latest.current, handle, dx, dy, captured);
    if (!isPage(next)) return;
    latest.current = next;
    onChange(next);
  };
}

export type BordersToolProps = Tool & {
  page: Quad;
  plain: Quad;
  kept: readonly Quad[];
  captured: Size;
  onChange: (plain: Quad) => void;
  onPutBack: (side: number) => void;
};

/** What is cleared, shaded; a handle on each side where plain paper begins. Delete puts that side's border back. */
export function BordersTool({ toScreen, pane, page, plain, kept, captured, ...on }: BordersToolProps) {
  const drag = useDragged(plain, captured, on.onChange);
  const [outer, inner] = [page, plain].map((quad) => path(quad, toScreen));
  return (
    <>
      <Lines pane={pane}>
        <path d={`${outer} ${inner}`} fillRule="evenodd" className="fill-accent/35" />
        <path d={inner} className="fill-none stroke-accent" strokeWidth={2} />
        {kept.map((quad) => (
          <Outline
            key={quad.join()}
            quad={quad}
            toScreen={toScreen}
            className="fill-paper/40 stroke-paper"
            width={1.5}
          />
        ))}
      </Lines>
      {([4, 5, 6, 7] as const).map((handle) => (
        <Handle
          key={handle}
          label={`Border on the ${handleName(handle)}`}
          at={placeOf(plain, handle)}
          toScreen={toScreen}
          round
          first={handle === 4}
          onDrag={(dx, dy) => drag(handle, dx, dy)}
          onKey={(event) => {
            if (event.key !== 'Delete' && event.key !== 'Backspace') return false;
            on.onPutBack(handle - 4);
            return true;
          }}
        />
      ))}
    </>
  );
}

export type LevelToolProps = Tool & { upright: (point: Point) => Point; onTilt: (degrees: number) => void };

/** A line drawn along the text, or down a rule, says how much the page is tilted. */
export function LevelTool({ toScreen, pane, upright, onTilt }: LevelToolProps) {
  const start = useRef<Point>(undefined);
  const [line, setLine] = useState<readonly [Point, Point]>();
  const back = inverse(toScreen);
  const there = (event: React.PointerEvent): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return mapped(back, [event.clientX - box.left, event.clientY - box.top]);
  };
  return (
    <div
      data-testid="level"
      className="absolute inset-0 cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        start.current = there(event);
        event.stopPropagation();
      }}
      onPointerMove={(event) => {
        if (start.current) setLine([start.current, there(event)]);
      }}
      onPointerUp={() => {
        start.current = undefined;
        if (!line) return;
        const [a, b] = line.map(upright) as [Point, Point];
        // A slip of the hand is no line.
        if (Math.hypot(b[0] - a[0], b[1] - a[1]) > 40) onTilt(tiltOf(a, b));
        setLine(undefined);
      }}
      onPointerCancel={() => {
        start.current = undefined;
        setLine(undefined);
      }}
    >
      {line && (
        <Lines pane={pane}>
          <Stroke line={line} toScreen={toScreen} />
        </Lines>
      )}
    </div>
  );
}

export function Stroke({ line, toScreen }: { line: readonly [Point, Point]; toScreen: Matrix }) {
  const [[x1, y1], [x2, y2]] = line.map((point) => mapped(toScreen, point)) as [Point, Point];
  return (
    <>
      <line x1={x1} y1={y1} x2={x2} y2={y2} className="stroke-paper" strokeWidth={4} />
      <line x1={x1} y1={y1} x2={x2} y2={y2} className="stroke-accent" strokeWidth={2} />
    </>
  );
}

export function Lines({ pane, children }: { pane: Size; children: React.ReactNode }) {
  return (
    <svg aria-hidden="true" width={pane[0]} height={pane[1]} className="pointer-events-none absolute inset-0">
      {children}
    </svg>
  );
}

export function Outline(props: { quad: Quad; toScreen: Matrix; className: string; width: number }) {
  const { quad, toScreen, className, width } = props;
  return (
    <>
      <path d={path(quad, toScreen)} className="fill-none stroke-paper" strokeWidth={width + 2} />
      <path d={path(quad, toScreen)} className={className} strokeWidth={width} />
    </>
  );
}

const path = (quad: Quad, toScreen: Matrix) => {
  const points = quad.map((point) =>
    mapped(toScreen, point)
      .map((value) => value.toFixed(1))
      .join(' '),
  );
  return `M${points.join('L')}Z`;
};
