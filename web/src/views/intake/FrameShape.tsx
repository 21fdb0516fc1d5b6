import type { KeyboardEvent } from 'react';
import { type Frame, HANDLES, type Handle } from '@/engine/geometry/frames';

/** Where a frame is taken hold of. */
export type Grip = 'move' | 'turn' | Handle;

export type FrameShapeProps = {
  frame: Frame;
  index: number;
  chosen: boolean;
  bad: boolean;
  onFocus?: () => void;
  onKey?: (event: KeyboardEvent) => void;
};

/** One frame on the glass, with its number, and its grips while it is in hand; in mm. Grips are 24 px and more on screen. */
export function FrameShape({ frame, index, chosen, bad, onFocus, onKey }: FrameShapeProps) {
  const { x, y, width, height, angle } = frame;
  const [left, top] = [x - width / 2, y - height / 2];
  const dashes = bad ? { strokeDasharray: '3 3' } : {};
  return (
    // biome-ignore lint/a11y/useSemanticElements: a shape in a drawing cannot be a button
    <g
      role="button"
      tabIndex={onKey ? 0 : -1}
      data-frame={index}
      aria-label={`Frame ${index + 1}, ${width.toFixed(0)} × ${height.toFixed(0)} mm${bad ? ', cannot be captured' : ''}`}
      aria-description={`At ${left.toFixed(0)}, ${top.toFixed(0)} mm, turned ${angle.toFixed(1)}°. Arrow keys move it, with Shift resize it, brackets turn it.`}
      aria-pressed={chosen}
      transform={`rotate(${angle} ${x} ${y})`}
      onFocus={onFocus}
      onKeyDown={onKey}
      className="outline-none [&:focus-visible>rect:first-child]:stroke-[7]"
    >
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="var(--color-mark)"
        fillOpacity={chosen ? 0.12 : 0.03}
        stroke="var(--color-paper)"
        strokeWidth="5"
        {...dashes}
        vectorEffect="non-scaling-stroke"
        className="cursor-move"
        data-grip="move"
        data-of={index}
      />
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="none"
        stroke="var(--color-mark)"
        strokeWidth={chosen ? 3 : 2}
        {...dashes}
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
      />
      <rect x={left} y={top} width="9" height="9" fill="var(--color-mark)" pointerEvents="none" />
      <text
        x={left + 4.5}
        y={top + 6.8}
        fontSize="6.5"
        textAnchor="middle"
        fill="var(--color-paper)"
        pointerEvents="none"
      >
        {index + 1}
      </text>
      {chosen && onKey && (
        <>
          <line x1={x} y1={top} x2={x} y2={top - 10} stroke="var(--color-paper)" strokeWidth="1.4" />
          <line x1={x} y1={top} x2={x} y2={top - 10} stroke="var(--color-mark)" strokeWidth="0.7" />
          <GripShape index={index} grip="turn" x={x} y={top - 10} round />
          {HANDLES.map(({ across, down }) => (
            <GripShape
              key={`${across} ${down}`}
              index={index}
              grip={`${across} ${down}`}
              x={x + (across * width) / 2}
              y={y + (down * height) / 2}
            />
          ))}
        </>
      )}
    </g>
  );
}

/** A small mark with a large target around it. */
function GripShape({
  index,
  grip,
  x,
  y,
  round,
}: {
  index: number;
  grip: string;
  x: number;
  y: number;
  round?: boolean;
}) {
  return (
    <g data-grip={grip} data-of={index} className={round ? 'cursor-grab' : 'cursor-crosshair'}>
      <circle cx={x} cy={y} r="6.5" fill="transparent" />
      {round ? (
        <circle cx={x} cy={y} r="2.6" fill="var(--color-mark)" stroke="var(--color-paper)" strokeWidth="0.7" />
      ) : (
        <rect
          x={x - 2}
          y={y - 2}
          width="4"
          height="4"
          fill="var(--color-mark)"
          stroke="var(--color-paper)"
          strokeWidth="0.7"
        />
      )}
    </g>
  );
}
