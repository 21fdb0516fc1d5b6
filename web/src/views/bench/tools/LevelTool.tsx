import { useState } from 'react';
import { tiltOf } from '@/engine/geometry/corners';
import { inverse, type Matrix, mapped } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';
import { useDrag } from '@/hooks/useDrag';
import { Lines, Stroke } from './lines';

export type LevelToolProps = {
  toScreen: Matrix;
  pane: Size;
  upright: (point: Point) => Point;
  onTilt: (degrees: number) => void;
};

/** A slip of the hand is no line; in pixels of the image. */
const LEAST_PX = 40;

/** A line drawn along the text, or down a rule, says how much the page is tilted. */
export function LevelTool({ toScreen, pane, upright, onTilt }: LevelToolProps) {
  const [line, setLine] = useState<readonly [Point, Point]>();
  const back = inverse(toScreen);
  const there = (event: { currentTarget: Element; clientX: number; clientY: number }): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return mapped(back, [event.clientX - box.left, event.clientY - box.top]);
  };
  const drag = useDrag<Point>({
    onGrasp: there,
    onDrag: (start, event) => setLine([start, there(event)]),
    onRelease: (start, event) => {
      setLine(undefined);
      const [a, b] = [upright(start), upright(there(event))];
      if (Math.hypot(b[0] - a[0], b[1] - a[1]) > LEAST_PX) onTilt(tiltOf(a, b));
    },
    onCancel: () => setLine(undefined),
  });
  return (
    <div data-testid="level" className="absolute inset-0 cursor-crosshair touch-none" {...drag}>
      {line && (
        <Lines pane={pane}>
          <Stroke line={line} toScreen={toScreen} />
        </Lines>
      )}
    </div>
  );
}
