import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { drawn, type Frame, HANDLES, type Handle, moved, resized, trouble, turned } from '@/engine/geometry/frames';

export type GlassProps = {
  size: { width_mm: number; height_mm: number };
  /** Address of the prescan; nothing before the first. */
  picture: string | undefined;
  looking: boolean;
  frames: readonly Frame[];
  chosen: number | undefined;
  /** Width and height of the paper where it is what is captured. */
  paper: readonly [number, number] | null;
  /** Quarter turns of the view. */
  quarter: number;
  onLoad: () => void;
  onError: () => void;
  onFrames: (frames: Frame[]) => void;
  onChoose: (index: number | undefined) => void;
};

type Hold = { kind: 'move' | 'turn' | 'draw' | Handle; x: number; y: number; before: Frame; index: number };

/** The glass with what lies on it: frames to draw, move, resize, turn and delete, by mouse and by keyboard. */
export function Glass(props: GlassProps) {
  const { size, picture, looking, frames, chosen, paper, quarter, onFrames, onChoose } = props;
  const { width_mm: width, height_mm: height } = size;
  const plane = useRef<SVGSVGElement>(null);
  const hold = useRef<Hold>(undefined);
  const [drawing, setDrawing] = useState<Frame>();

  // The browser knows how the plane is scaled and turned on screen.
  const inMm = (event: { clientX: number; clientY: number }) => {
    const matrix = plane.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: point.x, y: point.y };
  };
  const put = (index: number, frame: Frame) => onFrames(frames.map((one, at) => (at === index ? frame : one)));
  const grasp = (kind: Hold['kind'], index: number) => (event: PointerEvent<SVGElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    plane.current?.setPointerCapture(event.pointerId);
    const before = frames[index] ?? drawn(0, 0, 0, 0);
    hold.current = { kind, ...inMm(event), before, index };
    onChoose(index >= 0 ? index : undefined);
  };
  const drag = (event: PointerEvent<SVGElement>) => {
    const now = hold.current;
    if (!now) return;
    const to = inMm(event);
    const [dx, dy] = [to.x - now.x, to.y - now.y];
    if (now.kind === 'draw') setDrawing(drawn(now.x, now.y, to.x, to.y));
    else if (now.kind === 'move') put(now.index, moved(now.before, dx, dy));
    else if (now.kind === 'turn') {
      const angle = (at: { x: number; y: number }) =>
        (Math.atan2(at.y - now.before.y, at.x - now.before.x) * 180) / Math.PI;
      put(now.index, turned(now.before, angle(to) - angle(now)));
    } else put(now.index, resized(now.before, now.kind, dx, dy));
  };
  const release = () => {
    const now = hold.current;
    hold.current = undefined;
    if (now?.kind === 'draw' && drawing) {
      // A mere click draws nothing; a line does, and is told why it cannot be captured.
      if (Math.max(drawing.width, drawing.height) > 2) {
        onFrames([...frames, drawing]);
        onChoose(frames.length);
      }
      setDrawing(undefined);
    }
  };
  const onKey = (index: number, frame: Frame) => (event: KeyboardEvent) => {
    const step = event.ctrlKey ? 10 : 1;
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    let next: Frame | undefined;
    if (way) {
      const [dx = 0, dy = 0] = way.map((one) => one * step);
      next = event.shiftKey
        ? { ...frame, width: Math.max(1, frame.width + dx), height: Math.max(1, frame.height + dy) }
        : moved(frame, dx, dy);
    } else if (event.key === '[') next = turned(frame, -0.5);
    else if (event.key === ']') next = turned(frame, 0.5);
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      onFrames(frames.filter((_, at) => at !== index));
      onChoose(undefined);
    } else return;
    event.preventDefault();
    event.stopPropagation();
    if (next) put(index, next);
  };

  const sideways = quarter % 2 === 1;
  return (
    <div className="flex min-h-0 flex-1 items-center justify-center overflow-hidden p-4 [container-type:size]">
      <div
        className="relative shrink-0"
        style={{
          aspectRatio: `${width} / ${height}`,
          height: sideways
            ? `min(100cqw, calc(100cqh * ${height / width}))`
            : `min(100cqh, calc(100cqw * ${height / width}))`,
          rotate: `${quarter * 90}deg`,
        }}
      >
        <div className="absolute inset-0 bg-surround" />
        {picture && (
          <img
            src={picture}
            alt="Prescan of the glass"
            className="absolute inset-0 size-full"
            onLoad={props.onLoad}
            onError={props.onError}
          />
        )}
        {/* biome-ignore lint/a11y/noSvgWithoutTitle: its frames are named one by one */}
        <svg
          ref={plane}
          viewBox={`0 0 ${width} ${height}`}
          className="absolute inset-0 size-full touch-none overflow-visible"
          onPointerDown={grasp('draw', -1)}
          onPointerMove={drag}
          onPointerUp={release}
          onPointerCancel={release}
        >
          <defs>
            <pattern id="cut-off" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <path d="M0 0v6" stroke="var(--color-paper)" strokeWidth="1.2" opacity="0.75" />
            </pattern>
          </defs>
          {paper && frames.length === 0 && (
            <path
              data-testid="cut-off"
              d={`M0 0h${width}v${height}h${-width}zM0 0v${Math.min(height, paper[1])}h${Math.min(width, paper[0])}V0z`}
              fill="url(#cut-off)"
              fillRule="evenodd"
            />
          )}
          {frames.map((frame, index) => (
            <FrameShape
              // biome-ignore lint/suspicious/noArrayIndexKey: a frame is known by its place
              key={index}
              frame={frame}
              number={index + 1}
              chosen={index === chosen}
              bad={trouble(frame, size) !== undefined}
              onGrasp={(kind) => grasp(kind, index)}
              onFocus={() => onChoose(index)}
              onKey={onKey(index, frame)}
            />
          ))}
          {drawing && <FrameShape frame={drawing} number={frames.length + 1} chosen bad={false} />}
        </svg>
        {looking && (
          <output className="absolute inset-x-0 bottom-0 bg-ink/80 px-3 py-1 text-center text-on-accent">
            Looking …
          </output>
        )}
      </div>
    </div>
  );
}

type ShapeProps = {
  frame: Frame;
  number: number;
  chosen: boolean;
  bad: boolean;
  onGrasp?: (kind: Hold['kind']) => (event: PointerEvent<SVGElement>) => void;
  onFocus?: () => void;
  onKey?: (event: KeyboardEvent) => void;
};

function FrameShape({ frame, number, chosen, bad, onGrasp, onFocus, onKey }: ShapeProps) {
  const { x, y, width, height, angle } = frame;
  const [left, top] = [x - width / 2, y - height / 2];
  return (
    // biome-ignore lint/a11y/useSemanticElements: a shape in a drawing cannot be a button
    <g
      role="button"
      tabIndex={onGrasp ? 0 : -1}
      aria-label={`Frame ${number}, ${width.toFixed(0)} × ${height.toFixed(0)} mm${bad ? ', cannot be captured' : ''}`}
      aria-pressed={chosen}
      transform={`rotate(${angle} ${x} ${y})`}
      onFocus={onFocus}
      onKeyDown={onKey}
      className="outline-none [&:focus-visible>rect:first-child]:stroke-paper"
    >
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="var(--color-accent)"
        fillOpacity={chosen ? 0.12 : 0.04}
        stroke="var(--color-paper)"
        strokeWidth="4"
        strokeDasharray={bad ? '3 3' : undefined}
        vectorEffect="non-scaling-stroke"
        className="cursor-move"
        onPointerDown={onGrasp?.('move')}
      />
      <rect
        x={left}
        y={top}
        width={width}
        height={height}
        fill="none"
        stroke="var(--color-accent)"
        strokeWidth="2"
        strokeDasharray={bad ? '3 3' : undefined}
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
      />
      <rect x={left} y={top} width="9" height="9" fill="var(--color-accent)" pointerEvents="none" />
      <text
        x={left + 4.5}
        y={top + 6.8}
        fontSize="6.5"
        textAnchor="middle"
        fill="var(--color-paper)"
        pointerEvents="none"
      >
        {number}
      </text>
      {chosen && onGrasp && (
        <>
          <line x1={x} y1={top} x2={x} y2={top - 9} stroke="var(--color-accent)" strokeWidth="0.6" />
          <circle
            cx={x}
            cy={top - 9}
            r="2.6"
            fill="var(--color-accent)"
            stroke="var(--color-paper)"
            strokeWidth="0.6"
            className="cursor-grab"
            onPointerDown={onGrasp('turn')}
          />
          {HANDLES.map((handle) => (
            <rect
              key={`${handle.across} ${handle.down}`}
              x={x + (handle.across * width) / 2 - 2}
              y={y + (handle.down * height) / 2 - 2}
              width="4"
              height="4"
              fill="var(--color-accent)"
              stroke="var(--color-paper)"
              strokeWidth="0.6"
              className="cursor-crosshair"
              onPointerDown={onGrasp(handle)}
            />
          ))}
        </>
      )}
    </g>
  );
}
