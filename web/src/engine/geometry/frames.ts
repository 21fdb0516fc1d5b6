/** Frames on the glass, in mm: each a rectangle that may be turned. The same words as in core/measure/layout/frames.py. */

export type Frame = {
  /** Its centre. */
  x: number;
  y: number;
  width: number;
  height: number;
  /** Clockwise turn in degrees. */
  angle: number;
};

/** Where a frame is held: -1, 0 or 1 across and down; (0, 0) is the whole of it. */
export type Handle = { across: -1 | 0 | 1; down: -1 | 0 | 1 };

export const HANDLES: readonly Handle[] = [-1, 0, 1].flatMap((down) =>
  [-1, 0, 1].flatMap((across) => (across || down ? [{ across, down } as Handle] : [])),
);
/** Nothing smaller can be captured. */
export const LEAST_MM = 5;

const radians = (angle: number) => (angle * Math.PI) / 180;
const tidy = (value: number) => Math.round(value * 100) / 100;

export function moved(frame: Frame, dx: number, dy: number): Frame {
  return { ...frame, x: tidy(frame.x + dx), y: tidy(frame.y + dy) };
}

export function turned(frame: Frame, by: number): Frame {
  const angle = ((((frame.angle + by + 180) % 360) + 360) % 360) - 180;
  return { ...frame, angle: tidy(angle) };
}

/** Drag a corner or a side: what lies opposite stays where it is. */
export function resized(frame: Frame, { across, down }: Handle, dx: number, dy: number): Frame {
  const [c, s] = [Math.cos(radians(frame.angle)), Math.sin(radians(frame.angle))];
  const along = (c * dx + s * dy) * across;
  const beside = (-s * dx + c * dy) * down;
  const width = Math.max(1, frame.width + (across ? along : 0));
  const height = Math.max(1, frame.height + (down ? beside : 0));
  const [grownX, grownY] = [((width - frame.width) / 2) * across, ((height - frame.height) / 2) * down];
  return {
    ...frame,
    width: tidy(width),
    height: tidy(height),
    x: tidy(frame.x + c * grownX - s * grownY),
    y: tidy(frame.y + s * grownX + c * grownY),
  };
}

/** The frame drawn from one corner to the other. */
export function drawn(x1: number, y1: number, x2: number, y2: number): Frame {
  return {
    x: tidy((x1 + x2) / 2),
    y: tidy((y1 + y2) / 2),
    width: tidy(Math.abs(x2 - x1)),
    height: tidy(Math.abs(y2 - y1)),
    angle: 0,
  };
}

export function corners({ x, y, width, height, angle }: Frame): [number, number][] {
  const [c, s] = [Math.cos(radians(angle)), Math.sin(radians(angle))];
  return [
    [-width / 2, -height / 2],
    [width / 2, -height / 2],
    [width / 2, height / 2],
    [-width / 2, height / 2],
  ].map(([dx = 0, dy = 0]) => [x + c * dx - s * dy, y + s * dx + c * dy]);
}

/** Why a frame cannot be captured, as one sentence; nothing where it can. */
export function trouble(frame: Frame, glass: { width_mm: number; height_mm: number }): string | undefined {
  if (frame.width < LEAST_MM || frame.height < LEAST_MM)
    return `A frame of ${frame.width.toFixed(0)} × ${frame.height.toFixed(0)} mm is too small to capture: draw it larger, or delete it.`;
  const xs = corners(frame).map(([x]) => x);
  const ys = corners(frame).map(([, y]) => y);
  const inside =
    Math.min(glass.width_mm, Math.max(...xs)) - Math.max(0, Math.min(...xs)) >= LEAST_MM &&
    Math.min(glass.height_mm, Math.max(...ys)) - Math.max(0, Math.min(...ys)) >= LEAST_MM;
  return inside ? undefined : 'A frame lies beside the glass: move it back, or delete it.';
}
