import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { enlarged, isLooking, onGlass, pictureOf } from '@/engine/capture/glass';
import { drawn, type Frame, type Handle, moved, resized, trouble, turned } from '@/engine/geometry/frames';
import { useDrag } from '@/hooks/useDrag';
import type { GlassHands } from '@/hooks/useGlass';
import { FrameShape, type Grip } from './FrameShape';

export type GlassProps = {
  glass: GlassHands;
  size: { width_mm: number; height_mm: number };
  /** The paper in mm of the glass where it is what is captured. */
  paper: { x: number; y: number; width: number; height: number } | null;
};

type Hold = { grip: Grip | 'draw'; x: number; y: number; before: Frame; index: number };
const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** A mere click draws nothing; a line does, and is told why it cannot be captured. */
const LEAST_MM = 2;

/** The glass with what lies on it: frames to draw, move, resize, turn and delete, by mouse, pen, finger and keyboard. */
export function Glass({ glass, size, paper }: GlassProps) {
  const { state, happen, broken } = glass;
  const { frames, chosen, quarter } = state;
  const { width_mm: width, height_mm: height } = size;
  const picture = pictureOf(state);
  const plane = useRef<SVGSVGElement>(null);
  const [drawing, setDrawing] = useState<Frame>();
  const setFrames = (next: readonly Frame[]) => happen({ kind: 'frames', frames: next });
  const put = (index: number, frame: Frame) => setFrames(frames.map((one, at) => (at === index ? frame : one)));

  // The frame in hand has the keyboard, the one that came to the place of a deleted one too.
  const count = frames.length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: deleting one leaves another under the same number
  useEffect(() => {
    if (chosen === undefined) return;
    requestAnimationFrame(() => plane.current?.querySelector<SVGElement>(`[data-frame="${chosen}"]`)?.focus());
  }, [chosen, count]);

  // The browser knows how the plane is scaled and turned on screen.
  const inMm = (event: { clientX: number; clientY: number }) => {
    const matrix = plane.current?.getScreenCTM()?.inverse();
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    return { x: point.x, y: point.y };
  };
  const drag = useDrag<Hold>({
    onGrasp: (event) => {
      const taken = (event.target as Element).closest<SVGElement>('[data-grip]');
      const index = Number(taken?.dataset.of ?? -1);
      const before = frames[index] ?? drawn(0, 0, 0, 0);
      happen({ kind: 'choose', frame: index >= 0 ? index : undefined });
      return { grip: taken ? gripOf(taken.dataset.grip ?? 'move') : 'draw', ...inMm(event), before, index };
    },
    onDrag: (hold, event) => {
      const to = inMm(event);
      if (hold.grip === 'draw') setDrawing(drawn(hold.x, hold.y, to.x, to.y));
      else put(hold.index, draggedTo(hold, to));
    },
    onRelease: (hold, event) => {
      setDrawing(undefined);
      if (hold.grip !== 'draw') return;
      const to = inMm(event);
      const frame = drawn(hold.x, hold.y, to.x, to.y);
      if (Math.max(frame.width, frame.height) <= LEAST_MM) return;
      setFrames([...frames, frame]);
      happen({ kind: 'choose', frame: frames.length });
    },
    onCancel: () => setDrawing(undefined),
  });
  const onKey = (index: number, frame: Frame) => (event: KeyboardEvent) => {
    const next = keyed(frame, event, quarter);
    const gone = event.key === 'Delete' || event.key === 'Backspace';
    if (!next && !gone) return;
    event.preventDefault();
    event.stopPropagation();
    if (next) put(index, next);
    else {
      happen({ kind: 'delete', frame: index });
      if (count === 1) plane.current?.focus();
    }
  };

  const sideways = quarter % 2 === 1;
  const { closer } = state;
  const large = closer && enlarged(closer.part, { width_mm: width, height_mm: height });
  return (
    <div className="flex min-h-[50vh] flex-1 items-center justify-center overflow-hidden p-5 [container-type:size] lg:min-h-0">
      <div
        className="relative shrink-0"
        style={{
          aspectRatio: `${width} / ${height}`,
          height: sideways
            ? `min(100cqw, calc(100cqh * ${height / width}))`
            : `min(100cqh, calc(100cqw * ${height / width}))`,
          rotate: `${quarter * 90}deg`,
          ...(large
            ? { transform: `scale(${large.scale}) translate(${large.across * 100}%, ${large.down * 100}%)` }
            : {}),
        }}
      >
        <div className="absolute inset-0 bg-lid" />
        {picture && (
          <img
            src={picture}
            alt="First look at the glass"
            className="absolute inset-0 size-full"
            onLoad={() => happen({ kind: 'shown', picture })}
            onError={() => broken(picture)}
          />
        )}
        {closer?.picture && (
          <img
            src={closer.picture}
            alt="The part that is looked at closely"
            className="absolute"
            style={{
              left: `${(closer.part.x / width) * 100}%`,
              top: `${(closer.part.y / height) * 100}%`,
              width: `${(closer.part.width / width) * 100}%`,
              height: `${(closer.part.height / height) * 100}%`,
            }}
          />
        )}
        {/* biome-ignore lint/a11y/useSemanticElements: a drawing is no fieldset */}
        <svg
          ref={plane}
          role="group"
          aria-label="Frames on the glass"
          tabIndex={-1}
          viewBox={`0 0 ${width} ${height}`}
          className="absolute inset-0 size-full touch-none overflow-visible"
          {...drag}
        >
          <defs>
            <pattern id="cut-off" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <path d="M0 0v6" stroke="var(--color-paper)" strokeWidth="1.2" opacity="0.75" />
            </pattern>
          </defs>
          {paper && frames.length === 0 && (
            <path
              data-testid="cut-off"
              d={`M0 0h${width}v${height}h${-width}zM${paper.x} ${paper.y}v${Math.min(height, paper.height)}h${Math.min(width, paper.width)}V${paper.y}z`}
              fill="url(#cut-off)"
              fillRule="evenodd"
            />
          )}
          {frames.map((frame, index) => (
            <FrameShape
              // biome-ignore lint/suspicious/noArrayIndexKey: a frame is known by its place
              key={index}
              frame={frame}
              index={index}
              chosen={index === chosen}
              bad={trouble(frame, size) !== undefined}
              onFocus={() => index !== chosen && happen({ kind: 'choose', frame: index })}
              onKey={onKey(index, frame)}
            />
          ))}
          {drawing && <FrameShape frame={drawing} index={frames.length} chosen bad={false} />}
        </svg>
        {isLooking(state) && (
          <output className="absolute inset-x-0 bottom-0 bg-surround-ink px-3 py-1 text-center text-paper">
            Looking at the glass …
          </output>
        )}
      </div>
    </div>
  );
}

/** The frame as a hold and where it has come to make it. */
function draggedTo({ grip, before, x, y }: Hold, to: { x: number; y: number }): Frame {
  const [dx, dy] = [to.x - x, to.y - y];
  if (grip === 'move' || grip === 'draw') return moved(before, dx, dy);
  if (grip !== 'turn') return resized(before, grip, dx, dy);
  const angle = (at: { x: number; y: number }) => (Math.atan2(at.y - before.y, at.x - before.x) * 180) / Math.PI;
  return turned(before, angle(to) - angle({ x, y }));
}

/** What a key makes of a frame: arrows move it, with Shift resize it, with Ctrl ten times as far; [ and ] turn it. */
function keyed(frame: Frame, event: KeyboardEvent, quarter: number): Frame | undefined {
  if (event.key === '[') return turned(frame, -0.5);
  if (event.key === ']') return turned(frame, 0.5);
  const arrow = ARROWS[event.key];
  if (!arrow) return undefined;
  const step = event.ctrlKey || event.metaKey ? 10 : 1;
  const [dx, dy] = onGlass(arrow, quarter);
  if (!event.shiftKey) return moved(frame, dx * step, dy * step);
  return {
    ...frame,
    width: Math.max(1, frame.width + dx * step),
    height: Math.max(1, frame.height + dy * step),
  };
}

function gripOf(written: string): Grip {
  if (written === 'move' || written === 'turn') return written;
  const [across = 0, down = 0] = written.split(' ').map(Number);
  return { across: Math.sign(across), down: Math.sign(down) } as Handle;
}
