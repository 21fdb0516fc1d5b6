import { type PointerEvent, type ReactNode, useEffect, useRef } from 'react';
import { closer, panned, type View } from '@/engine/bench/view';
import type { Matrix } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';
import { PageLayer, type PageLayerProps } from './PageLayer';

export type PaneProps = {
  label: string;
  /** What stands in its corner. */
  title: string;
  size: Size;
  view: View;
  onView: (view: View) => void;
  onPoint: (at: Point | undefined) => void;
  /** By which what is under the pointer is found: from the image as captured to the screen. */
  toScreen: Matrix;
  layers: (Omit<PageLayerProps, 'pane'> & { clipLeft?: number })[];
  children?: ReactNode;
};

/** A window on the page: dragged and zoomed, with pictures laid in it and tools on top. */
export function Pane({ label, title, size, view, onView, onPoint, toScreen, layers, children }: PaneProps) {
  const frame = useRef<HTMLElement>(null);
  const held = useRef<Point>(undefined);
  const now = useRef({ view, toScreen, onView });
  useEffect(() => {
    now.current = { view, toScreen, onView };
  });
  useEffect(() => {
    const element = frame.current;
    // React listens to wheels passively, and then the page could not be kept from scrolling.
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = (element as HTMLElement).getBoundingClientRect();
      const at: Point = [event.clientX - box.left, event.clientY - box.top];
      const { view, toScreen, onView } = now.current;
      onView(closer(view, Math.exp(-event.deltaY / 400), toScreen, at));
    };
    element?.addEventListener('wheel', wheel, { passive: false });
    return () => element?.removeEventListener('wheel', wheel);
  }, []);
  const place = (event: PointerEvent): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  return (
    <section
      ref={frame}
      aria-label={label}
      className={`relative min-w-0 flex-1 touch-none overflow-hidden ${held.current ? 'cursor-grabbing' : ''}`}
      onPointerDown={(event) => {
        if ((event.target as HTMLElement).closest('button')) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        held.current = [event.clientX, event.clientY];
      }}
      onPointerMove={(event) => {
        onPoint(place(event));
        if (!held.current) return;
        const [x, y] = held.current;
        held.current = [event.clientX, event.clientY];
        onView(panned(view, toScreen, size, event.clientX - x, event.clientY - y));
      }}
      onPointerUp={() => {
        held.current = undefined;
      }}
      onPointerCancel={() => {
        held.current = undefined;
      }}
      onPointerLeave={() => onPoint(undefined)}
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
      <span className="pointer-events-none absolute top-2 left-2 rounded-sm bg-panel px-1.5 text-small">{title}</span>
    </section>
  );
}
