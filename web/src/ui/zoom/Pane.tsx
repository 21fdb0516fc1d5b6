import { type PointerEvent, type ReactNode, useEffect, useRef } from 'react';
import type { Matrix } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';
import { closer, panned, type View } from '@/engine/zoom/view';
import { useDrag } from '@/hooks/useDrag';
import { PageLayer, type PageLayerProps } from './PageLayer';

export type PaneProps = {
  label: string;
  /** What stands in its corner. */
  title?: string;
  size: Size;
  view: View;
  onView: (view: View) => void;
  onPoint?: (at: Point | undefined) => void;
  onDoubleClick?: () => void;
  /** By which what is under the pointer is found: from the image as captured to the screen. */
  toScreen: Matrix;
  layers: (Omit<PageLayerProps, 'pane'> & { clipLeft?: number })[];
  children?: ReactNode;
};

/** A window on the page: dragged, zoomed by wheel or two fingers, with pictures laid in it and tools on top. */
export function Pane({
  label,
  title,
  size,
  view,
  onView,
  onPoint,
  onDoubleClick,
  toScreen,
  layers,
  children,
}: PaneProps) {
  const frame = useRef<HTMLElement>(null);
  const now = useRef({ view, toScreen, onView });
  useEffect(() => {
    now.current = { view, toScreen, onView };
  });
  const placeOf = (event: { clientX: number; clientY: number }): Point => {
    const box = (frame.current as HTMLElement).getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  useEffect(() => {
    const element = frame.current;
    // React listens to wheels passively, and then the page could not be kept from scrolling.
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = (element as HTMLElement).getBoundingClientRect();
      const { view, toScreen, onView } = now.current;
      onView(
        closer(view, Math.exp(-event.deltaY / 400), toScreen, [event.clientX - box.left, event.clientY - box.top]),
      );
    };
    element?.addEventListener('wheel', wheel, { passive: false });
    return () => element?.removeEventListener('wheel', wheel);
  }, []);

  const pinch = usePinch((factor, at) => {
    const { view, toScreen, onView } = now.current;
    onView(closer(view, factor, toScreen, placeOf(at)));
  });
  const drag = useDrag<true>({
    onGrasp: (event) => ((event.target as Element).closest('button, [role=slider]') ? undefined : true),
    onDrag: (_, event, [x, y]) => {
      if (!pinch.pinching()) onView(panned(view, toScreen, size, event.clientX - x, event.clientY - y));
    },
  });
  return (
    <section
      ref={frame}
      aria-label={label}
      className="relative min-w-0 flex-1 cursor-grab touch-none overflow-hidden active:cursor-grabbing"
      onPointerDown={(event) => {
        pinch.down(event);
        drag.onPointerDown(event);
      }}
      onPointerMove={(event) => {
        onPoint?.(placeOf(event));
        pinch.move(event);
        drag.onPointerMove(event);
      }}
      onPointerUp={(event) => {
        pinch.up(event);
        drag.onPointerUp(event);
      }}
      onPointerCancel={(event) => {
        pinch.up(event);
        drag.onPointerCancel(event);
      }}
      onPointerLeave={() => onPoint?.(undefined)}
      onDoubleClick={onDoubleClick}
    >
      {size[0] > 0 &&
        layers.map(({ clipLeft, ...layer }) => (
          <div
            key={layer.label}
            className="absolute inset-0 overflow-hidden"
            style={clipLeft === undefined ? undefined : { clipPath: `inset(0 0 0 ${clipLeft}px)` }}
          >
            <PageLayer {...layer} pane={size} />
          </div>
        ))}
      {size[0] > 0 && children}
      {title && (
        <span className="pointer-events-none absolute top-0 left-0 bg-panel px-2 py-0.5 text-small text-ink">
          {title}
        </span>
      )}
    </section>
  );
}

type At = { clientX: number; clientY: number };

/** Two fingers that come together or part. */
function usePinch(onPinch: (factor: number, at: At) => void) {
  const fingers = useRef(new Map<number, At>());
  const gap = () => {
    const [a, b] = [...fingers.current.values()];
    return a && b ? Math.hypot(a.clientX - b.clientX, a.clientY - b.clientY) : 0;
  };
  return {
    pinching: () => fingers.current.size > 1,
    down: ({ pointerId, clientX, clientY }: PointerEvent) => fingers.current.set(pointerId, { clientX, clientY }),
    move: ({ pointerId, clientX, clientY }: PointerEvent) => {
      if (!fingers.current.has(pointerId)) return;
      const before = gap();
      fingers.current.set(pointerId, { clientX, clientY });
      const [a, b] = [...fingers.current.values()];
      const after = gap();
      if (!a || !b || before < 1 || after < 1) return;
      onPinch(after / before, { clientX: (a.clientX + b.clientX) / 2, clientY: (a.clientY + b.clientY) / 2 });
    },
    up: ({ pointerId }: PointerEvent) => fingers.current.delete(pointerId),
  };
}
