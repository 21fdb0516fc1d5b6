import type { ReactNode } from 'react';
import { type Matrix, mapped, type Quad } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';

/** Drawn over the image, each line with a light one beneath it, so that it is seen on whatever lies there. */
export function Lines({ pane, children }: { pane: Size; children: ReactNode }) {
  return (
    <svg aria-hidden="true" width={pane[0]} height={pane[1]} className="pointer-events-none absolute inset-0">
      {children}
    </svg>
  );
}

export function Stroke({ line: [start, end], toScreen }: { line: readonly [Point, Point]; toScreen: Matrix }) {
  const [[x1, y1], [x2, y2]] = [mapped(toScreen, start), mapped(toScreen, end)];
  return (
    <>
      <line x1={x1} y1={y1} x2={x2} y2={y2} className="stroke-paper" strokeWidth={4} />
      <line x1={x1} y1={y1} x2={x2} y2={y2} className="stroke-mark" strokeWidth={2} />
    </>
  );
}

export function Outline(props: { quad: Quad; toScreen: Matrix; className: string; width: number }) {
  const { quad, toScreen, className, width } = props;
  return (
    <>
      <path d={pathOf(quad, toScreen)} className="fill-none stroke-paper" strokeWidth={width + 2} />
      <path d={pathOf(quad, toScreen)} className={className} strokeWidth={width} />
    </>
  );
}

export const pathOf = (quad: Quad, toScreen: Matrix) => {
  const points = quad.map((point) =>
    mapped(toScreen, point)
      .map((value) => value.toFixed(1))
      .join(' '),
  );
  return `M${points.join('L')}Z`;
};
