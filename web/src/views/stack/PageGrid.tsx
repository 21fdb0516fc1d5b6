import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { PageRow } from '@/api/types';
import {
  type Grid,
  gapPlace,
  gridFor,
  type Layout,
  placeOf,
  rowCount,
  rowHeight,
  rowOf,
  type Size,
} from '@/engine/grid/layout';
import type { Selection } from '@/engine/selection/selection';
import type { Version } from '@/engine/version';
import { Mark, stateWords } from '@/ui/Mark';
import { useGridHands } from '@/views/stack/arrange/useGridHands';

export type PageGridProps = {
  pages: PageRow[];
  selection: Selection;
  cut: ReadonlySet<number>;
  /** Pages with which a document begins. */
  starts: ReadonlySet<number>;
  version: Version;
  size: Size;
  layout: Layout;
  firstAlone: boolean;
  onSelect: (selection: Selection) => void;
  onMove: (ids: number[], after: number | null) => void;
  onOpen: (page: PageRow) => void;
  onColumns: (columns: number) => void;
};

/** Pages side by side, in leaves or as they face each other; only the rows in view exist, so thousands scroll like ten. */
export function PageGrid(props: PageGridProps) {
  const { pages, selection, cut, starts, version, size, layout, firstAlone, onSelect, onMove, onOpen, onColumns } =
    props;
  const frame = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(900);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(() => setRoom(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const grid = useMemo(() => gridFor(room, size, layout, firstAlone), [room, size, layout, firstAlone]);
  useEffect(() => onColumns(grid.columns), [grid.columns, onColumns]);
  const rows = useVirtualizer({
    count: rowCount(grid, pages.length),
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight(grid),
    overscan: 2,
  });
  const height = grid.height;
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows are measured anew when their height changes
  useLayoutEffect(() => rows.measure(), [height, rows]);
  const { current } = selection;
  const at = pages.findIndex((page) => page.id === current);
  const row = at < 0 ? -1 : rowOf(grid, at);
  useEffect(() => {
    if (row >= 0) rows.scrollToIndex(row, { align: 'auto' });
  }, [row, rows]);
  const hands = useGridHands({ frame, grid, pages, selection, onSelect, onMove });

  // Where a cell has the focus, it goes along with the choice, so that Enter always means the chosen page.
  useLayoutEffect(() => {
    const element = frame.current;
    const focused = document.activeElement;
    if (current === undefined || !focused || !element?.contains(focused)) return;
    const follow = () => element.querySelector<HTMLElement>(`[data-page="${current}"]`)?.focus({ preventScroll: true });
    follow();
    const later = requestAnimationFrame(follow); // a cell that had to be scrolled to is there by then
    return () => cancelAnimationFrame(later);
  }, [current]);

  const bar = hands.gap === undefined ? undefined : gapPlace(grid, pages.length, hands.gap);
  return (
    <div ref={frame} className="min-h-0 flex-1 overflow-y-auto px-4 select-none" {...hands.handlers}>
      {pages.length === 0 && <p className="bg-surround p-3 text-body text-on-accent">No page is among these.</p>}
      <ul aria-label="Pages" className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index }) => (
          <Row
            key={index}
            line={index}
            grid={grid}
            pages={pages}
            selection={selection}
            cut={cut}
            starts={starts}
            version={version}
            onOpen={onOpen}
          />
        ))}
        {bar && (
          <li
            aria-hidden="true"
            className="absolute w-1 rounded-sm bg-paper"
            style={{ left: bar.left - 2, top: bar.top, height: grid.height }}
          />
        )}
        {hands.band && (
          <li
            aria-hidden="true"
            className="pointer-events-none absolute border border-paper bg-paper/15"
            style={{
              left: hands.band.left,
              top: hands.band.top,
              width: hands.band.right - hands.band.left,
              height: hands.band.bottom - hands.band.top,
            }}
          />
        )}
      </ul>
    </div>
  );
}

type RowProps = Pick<PageGridProps, 'pages' | 'selection' | 'cut' | 'starts' | 'version' | 'onOpen'> & {
  line: number;
  grid: Grid;
};

/** A row's cells; while the grid scrolls, rows that stay are left alone. */
const Row = memo(function Row({ line, grid, pages, selection, cut, starts, version, onOpen }: RowProps) {
  const first = Math.max(0, line * grid.columns - grid.offset);
  return pages.slice(first, (line + 1) * grid.columns - grid.offset).map((page, column) => (
    <Placed key={page.id} grid={grid} index={first + column}>
      <Cell
        page={page}
        chosen={selection.ids.has(page.id)}
        current={page.id === selection.current}
        cut={cut.has(page.id)}
        begins={page.breaks || (starts.has(page.id) && page.number > 1)}
        side={grid.paired ? sideOf(grid, first + column) : 'none'}
        version={version}
        onOpen={onOpen}
      />
    </Placed>
  ));
});

type Side = 'left' | 'right' | 'none';
const sideOf = (grid: Grid, index: number): Side => ((index + grid.offset) % 2 === 0 ? 'left' : 'right');

function Placed({ grid, index, children }: { grid: Grid; index: number; children: React.ReactNode }) {
  const { left, top } = placeOf(grid, index);
  return (
    <li
      className="absolute"
      style={{ width: grid.width, height: grid.height, transform: `translate(${left}px, ${top}px)` }}
    >
      {children}
    </li>
  );
}

type CellProps = {
  page: PageRow;
  chosen: boolean;
  current: boolean;
  cut: boolean;
  /** Whether a document begins with it. */
  begins: boolean;
  side: Side;
  version: Version;
  onOpen: (page: PageRow) => void;
};

const Cell = memo(function Cell({ page, chosen, current, cut, begins, side, version, onOpen }: CellProps) {
  const marks = [
    page.state === 'aside' ? `aside: ${page.aside}` : stateWords(page),
    begins && 'document begins',
    page.rescan && 'to capture again',
    cut && 'cut',
  ].filter(Boolean);
  return (
    <button
      type="button"
      aria-label={`Page ${page.number}, ${page.source}, ${marks.join(', ')}`}
      aria-pressed={chosen}
      data-page={page.id}
      tabIndex={current ? 0 : -1}
      onClick={(event) => event.detail === 0 && onOpen(page)}
      onDoubleClick={() => onOpen(page)}
      className={`relative flex h-full w-full flex-col rounded-md p-2 text-on-accent ${chosen ? 'bg-accent' : 'bg-surround'} ${current && chosen ? 'shadow-[inset_0_0_0_2px_var(--color-paper)]' : ''} ${cut ? 'opacity-50' : ''} ${side === 'left' ? 'rounded-r-none pr-0.5' : side === 'right' ? 'rounded-l-none pl-0.5' : ''}`}
    >
      {begins && <span aria-hidden="true" className="absolute inset-y-0 left-0 w-1 rounded-l-md bg-paper" />}
      <Picture page={page} version={version} side={side} />
      <span className="mt-1.5 flex w-full items-center gap-2 px-0.5">
        <span className="font-mono">{page.number}</span>
        <span className="min-w-0 flex-1 truncate text-left text-small" title={page.source}>
          {page.source}
          {page.frames > 1 && ` · ${page.frame + 1}`}
        </span>
        {page.rescan && <span className="shrink-0 text-small">again</span>}
        {page.aside && <span className="shrink-0 text-small">{page.aside}</span>}
        {page.trouble && <span className="shrink-0 text-small">held up</span>}
        <Mark state={page.state} verdict={page.verdict} />
      </span>
    </button>
  );
});

const ALIGN: Record<Side, string> = { none: 'justify-center', left: 'justify-end', right: 'justify-start' };

function Picture({ page, version, side }: { page: PageRow; version: Version; side: Side }) {
  // A page that is held out has no corrected version that anybody gets to see: show what it is.
  const clean = version === 'clean' && page.clean && !page.aside;
  const address = clean
    ? `/thumbs/render/${page.clean}.webp`
    : page.original
      ? `/thumbs/measure/${page.original}.webp`
      : null;
  if (page.state === 'failed' && !address)
    return <span className="flex min-h-0 flex-1 items-center p-1 text-left text-small">{page.error}</span>;
  if (!address)
    return <span className="flex min-h-0 flex-1 items-center justify-center text-small">{stateWords(page)}</span>;
  return (
    <span className={`flex min-h-0 w-full flex-1 items-center ${ALIGN[side]}`}>
      <img
        src={address}
        alt=""
        draggable={false}
        decoding="async"
        className={`max-h-full max-w-full ${page.state === 'aside' ? 'opacity-60' : ''}`}
      />
    </span>
  );
}
