import type { PaperPath } from '@/api/types';
import { turnOf } from '@/engine/capture/paper';
import { type PaperSource, paperWords } from '@/words/paper';

export type PaperDrawingProps = { source: PaperSource; path: PaperPath; className?: string };

const WIDTH = 160;
const SHEET = { width: 48, height: 64 };
const BED = { left: 24, top: 14, width: 112, height: 88 };

/** A source from above with a sheet as it goes in: its writing where it lies face up, seen through where it lies face down. */
export function PaperDrawing({ source, path, className = '' }: PaperDrawingProps) {
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 116`}
      role="img"
      aria-label={paperWords(source, path)}
      className={className}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
      strokeLinejoin="round"
    >
      {source === 'feeder' ? <Feeder path={path} /> : <Bed path={path} />}
    </svg>
  );
}

function Feeder({ path }: { path: PaperPath }) {
  const { width, height } = lying(path);
  const middle = { left: 20 + width / 2, middle: WIDTH / 2, right: WIDTH - 20 - width / 2 }[path.place as 'middle'];
  const [left, right] = [middle - width / 2, middle + width / 2];
  return (
    <>
      <path d={`M12 3H${WIDTH - 12}V24H12Z`} fill="var(--color-accent-pale)" />
      <path d={`M20 24H${WIDTH - 20}`} strokeWidth="3" />
      <path d={`M${left - 5} 110V34M${right + 5} 110V34`} strokeWidth="3" />
      <SheetShape path={path} x={middle} y={28 + height / 2} />
      <path d={`M${middle} 20V9M${middle - 5} 14 ${middle} 8l5 6`} strokeWidth="2" />
    </>
  );
}

function Bed({ path }: { path: PaperPath }) {
  const { left, top, width, height } = BED;
  const sheet = lying(path);
  const atRight = path.place.endsWith('right');
  const atFront = path.place.startsWith('front');
  const x = atRight ? left + width - sheet.width / 2 : left + sheet.width / 2;
  const y = atFront ? top + height - sheet.height / 2 : top + sheet.height / 2;
  const [cornerX, cornerY] = [atRight ? left + width : left, atFront ? top + height : top];
  const [dx, dy] = [atRight ? 9 : -9, atFront ? 9 : -9];
  return (
    <>
      <path d={`M${left - 12} ${top - 11}h${width + 24}v${height + 24}h${-(width + 24)}Z`} />
      <path d={`M${left} ${top}h${width}v${height}h${-width}Z`} fill="var(--color-accent-pale)" />
      <SheetShape path={path} x={x} y={y} />
      <path d={`M${cornerX} ${cornerY}h${dx}l${-dx} ${dy}Z`} fill="currentColor" strokeWidth="0.8" />
    </>
  );
}

/** Width and height on the drawing, as it lies. */
const lying = (path: PaperPath) =>
  turnOf(path) % 180 ? { width: SHEET.height, height: SHEET.width } : { width: SHEET.width, height: SHEET.height };

/** A page with a heading at its top and ragged lines under it. */
function SheetShape({ path, x, y }: { path: PaperPath; x: number; y: number }) {
  const down = path.face === 'down';
  const { width, height } = SHEET;
  const lines = [12, 18, 24, 30, 36, 42].map((at, index) => `M8 ${at + 8}H${[40, 38, 40, 36, 40, 26][index]}`);
  return (
    <g transform={`translate(${x} ${y}) rotate(${turnOf(path)}) translate(${-width / 2} ${-height / 2})`}>
      <path d={`M0 0H${width}V${height}H0Z`} fill={down ? 'var(--color-hover)' : 'var(--color-panel)'} />
      <g
        transform={down ? `translate(${width} 0) scale(-1 1)` : undefined}
        strokeWidth={down ? 1 : 1.6}
        {...(down ? { strokeDasharray: '2 2.5' } : {})}
      >
        <path d="M8 9H28" strokeWidth={down ? 2 : 4} />
        <path d={lines.join('')} />
      </g>
    </g>
  );
}
