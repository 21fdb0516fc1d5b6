import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, type ReactNode, useEffect, useLayoutEffect, useMemo, useRef } from 'react';
import type { PageRow } from '@/api/types';
import {
  type Grid,
  gapPlace,
  gridFor,
  type Layout,
  MARGIN,
  placeOf,
  rowCount,
  rowHeight,
  rowOf,
  type Size,
  TOP,
} from '@/engine/grid/layout';
import type { Command } from '@/engine/keys/registry';
import type { Happening, Selection } from '@/engine/selection/selection';
import type { Version } from '@/engine/version';
import { useSize } from '@/hooks/useSize';
import { Menu } from '@/ui/Menu';
import { Cell, type Edge } from './Cell';
import type { Filter } from './Filters';
import { useGridHands } from './useGridHands';

export type PageGridProps = {
  pages: readonly PageRow[];
  /** Their ids, in order. */
  shown: readonly number[];
  selection: Selection;
  cut: ReadonlySet<number>;
  /** Pages with which a document begins. */
  starts: ReadonlySet<number>;
  version: Version;
  /** On which sheet they are: what is drawn on them. */
  glance: Filter;
  size: Size;
  layout: Layout;
  firstAlone: boolean;
  /** What can be done to the chosen pages. */
  commands: readonly Command[];
  onChoose: (happening: Happening) => void;
  /** Chosen pages were dragged to a gap between those that are shown. */
  onMove: (gap: number) => void;
  onOpen: (page: PageRow) => void;
  onColumns: (columns: number) => void;
};

/** Pages side by side, in leaves or as they face each other; only the rows in view exist, so thousands scroll like ten. */
export function PageGrid(props: PageGridProps) {
  const {
    pages,
    shown,
    selection,
    cut,
    starts,
    version,
    glance,
    size,
    layout,
    firstAlone,
    commands,
    onOpen,
    onColumns,
  } = props;
  const [frame, [room]] = useSize<HTMLDivElement>();
  const grid = useMemo(
    () => gridFor(room ? room + 2 * MARGIN : 900, size, layout, firstAlone),
    [room, size, layout, firstAlone],
  );
  useEffect(() => onColumns(grid.columns), [grid.columns, onColumns]);
  const rows = useVirtualizer({
    count: rowCount(grid, pages.length),
    getScrollElement: () => frame.current,
    estimateSize: () => rowHeight(grid),
    overscan: 2,
    scrollPaddingStart: TOP,
    scrollMargin: TOP,
  });
  const height = grid.height;
  // biome-ignore lint/correctness/useExhaustiveDependencies: rows are measured anew when their height changes
  useLayoutEffect(() => rows.measure(), [height, rows]);
  const { current } = selection;
  const at = useMemo(() => (current === undefined ? -1 : shown.indexOf(current)), [shown, current]);
  const row = at < 0 ? -1 : rowOf(grid, at);
  useEffect(() => {
    if (row >= 0) rows.scrollToIndex(row, { align: 'auto' });
  }, [row, rows]);
  const hands = useGridHands({ frame, grid, shown, selection, onChoose: props.onChoose, onMove: props.onMove });

  // Where a cell has the focus, it goes along with the choice, so that Enter always means the chosen page.
  const focused = useRef(false);
  useLayoutEffect(() => {
    const element = frame.current;
    if (current === undefined || !element || !focused.current) return;
    const follow = () => element.querySelector<HTMLElement>(`[data-page="${current}"]`)?.focus({ preventScroll: true });
    follow();
    const later = requestAnimationFrame(follow); // a cell that had to be scrolled to is there by then
    return () => cancelAnimationFrame(later);
  }, [current, frame]);

  const bar = hands.gap === undefined ? undefined : gapPlace(grid, pages.length, hands.gap);
  return (
    <Menu commands={commands}>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: pages are chosen by key too, in the list within */}
      <div
        ref={frame}
        className="min-h-0 flex-1 overflow-y-auto px-4 pt-3 select-none"
        onFocus={() => {
          focused.current = true;
        }}
        onBlur={(event) => {
          // A cell that is scrolled away takes the focus with it: it is still in the grid.
          if (event.relatedTarget) focused.current = false;
        }}
        // What the menu acts on is what lies under the pointer.
        onContextMenuCapture={(event) => {
          const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-page]');
          const id = Number(cell?.dataset.page);
          if (cell && !selection.ids.has(id)) props.onChoose({ kind: 'only', id });
        }}
        {...hands.handlers}
      >
        {pages.length === 0 && <p className="bg-panel p-3">No page is among these.</p>}
        <div className="relative" style={{ height: rows.getTotalSize() }}>
          <div role="listbox" aria-label="Pages" aria-multiselectable="true" className="h-full">
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
                glance={glance}
                onOpen={onOpen}
              />
            ))}
          </div>
          {bar && (
            <div
              aria-hidden="true"
              className="absolute w-1 bg-paper outline-1 outline-surround-ink"
              style={{ left: bar.left - 2, top: bar.top, height: grid.height }}
            />
          )}
          {hands.band && (
            <div
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
        </div>
      </div>
    </Menu>
  );
}

type RowProps = Pick<PageGridProps, 'pages' | 'selection' | 'cut' | 'starts' | 'version' | 'glance' | 'onOpen'> & {
  line: number;
  grid: Grid;
};

/** A row's cells; while the grid scrolls, rows that stay are left alone. */
const Row = memo(function Row({ line, grid, pages, selection, cut, starts, version, glance, onOpen }: RowProps) {
  const first = Math.max(0, line * grid.columns - grid.offset);
  return pages.slice(first, (line + 1) * grid.columns - grid.offset).map((page, column) => (
    <Placed key={page.id} grid={grid} index={first + column}>
      <Cell
        page={page}
        place={first + column + 1}
        among={pages.length}
        chosen={selection.ids.has(page.id)}
        current={page.id === selection.current}
        cut={cut.has(page.id)}
        begins={page.breaks || (starts.has(page.id) && page.number > 1)}
        side={grid.paired ? sideOf(grid, first + column) : 'none'}
        version={version}
        glance={glance}
        onOpen={onOpen}
      />
    </Placed>
  ));
});

const sideOf = (grid: Grid, index: number): Edge => ((index + grid.offset) % 2 === 0 ? 'left' : 'right');

function Placed({ grid, index, children }: { grid: Grid; index: number; children: ReactNode }) {
  const { left, top } = placeOf(grid, index);
  return (
    <div
      role="presentation"
      className="absolute"
      style={{ width: grid.width, height: grid.height, transform: `translate(${left}px, ${top}px)` }}
    >
      {children}
    </div>
  );
}
