import { useEffect, useRef } from 'react';
import type { Matrix } from '@/engine/geometry/projective';
import { type Ends, endsOf, type LineEnd, movedLine, type SplitLine } from '@/engine/geometry/splitLine';
import type { Point, Size, Turn } from '@/engine/geometry/turned';
import { Handle } from '@/ui/zoom/Handle';
import { Lines, Stroke } from './lines';

export type SplitToolProps = {
  toScreen: Matrix;
  pane: Size;
  line: SplitLine;
  captured: Size;
  turn: Turn;
  onChange: (line: SplitLine) => void;
  onSplit: () => void;
};

const ENDS: LineEnd[] = ['middle', 'top', 'bottom'];

/** The line between two pages, with a handle in the middle that moves it and one at each end that tilts it. */
export function SplitTool({ toScreen, pane, line, captured, turn, onChange, onSplit }: SplitToolProps) {
  // Hands move more often than the screen is drawn: every movement goes on from the one before it.
  const latest = useRef(line);
  useEffect(() => {
    latest.current = line;
  });
  const ends = endsOf(line, captured, turn);
  return (
    <>
      <Lines pane={pane}>
        <Stroke line={ends} toScreen={toScreen} />
      </Lines>
      {ENDS.map((end) => (
        <Handle
          key={end}
          label={`Split line, ${end}`}
          at={placeOf(ends, end)}
          toScreen={toScreen}
          round
          first={end === 'middle'}
          onDrag={(dx, dy) => {
            latest.current = movedLine(latest.current, end, dx, dy, captured, turn);
            onChange(latest.current);
          }}
          onKey={(event) => {
            if (event.key !== 'Enter') return false;
            onSplit();
            return true;
          }}
        />
      ))}
    </>
  );
}

function placeOf([start, end]: Ends, which: LineEnd): Point {
  if (which === 'top') return start;
  return which === 'bottom' ? end : [(start[0] + end[0]) / 2, (start[1] + end[1]) / 2];
}
