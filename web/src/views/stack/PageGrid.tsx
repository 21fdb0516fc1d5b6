import { useVirtualizer } from '@tanstack/react-virtual';
import { memo, useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { PageRow } from '../../api/types';
import { Mark, STATE_WORDS } from '../../parts/Mark';
import type { Version } from './version';

export type PageGridProps = {
  pages: PageRow[];
  current: number | undefined;
  version: Version;
  onChoose: (page: PageRow) => void;
  onOpen: (page: PageRow) => void;
  onColumns: (columns: number) => void;
};

/** In CSS pixels; a row's cells share what is left of its width. */
const CELL = { least: 156, height: 240, gap: 12, margin: 16 };

/** Pages side by side; only the rows in view exist, so thousands scroll like ten. */
export function PageGrid({ pages, current, version, onChoose, onOpen, onColumns }: PageGridProps) {
  const frame = useRef<HTMLDivElement>(null);
  const [{ columns, width }, setLayout] = useState({ columns: 1, width: CELL.least });
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(() => {
      const room = element.clientWidth - 2 * CELL.margin + CELL.gap;
      const fitting = Math.max(1, Math.floor(room / (CELL.least + CELL.gap)));
      setLayout({ columns: fitting, width: Math.floor(room / fitting) - CELL.gap });
      onColumns(fitting);
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [onColumns]);
  const rows = useVirtualizer({
    count: Math.ceil(pages.length / columns),
    getScrollElement: () => frame.current,
    estimateSize: () => CELL.height + CELL.gap,
    overscan: 3,
  });
  const at = pages.findIndex((page) => page.id === current);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(Math.floor(at / columns), { align: 'auto' });
  }, [at, columns, rows]);

  // Where a cell has the focus, it goes along with the choice, so that Enter always means the chosen page.
  useLayoutEffect(() => {
    const grid = frame.current;
    const focused = document.activeElement;
    if (current === undefined || !focused || !grid?.contains(focused)) return;
    const follow = () => grid.querySelector<HTMLElement>(`[data-page="${current}"]`)?.focus({ preventScroll: true });
    follow();
    const later = requestAnimationFrame(follow); // a cell that had to be scrolled to is there by then
    return () => cancelAnimationFrame(later);
  }, [current]);

  if (pages.length === 0) return <p className="p-4 text-base text-pale-ink">No page is among these.</p>;
  return (
    <div ref={frame} className="min-h-0 flex-1 overflow-y-auto px-4">
      <ul aria-label="Pages" className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().flatMap((row) =>
          pages.slice(row.index * columns, (row.index + 1) * columns).map((page, column) => (
            <li
              key={page.id}
              className="absolute"
              style={{
                width,
                height: CELL.height,
                transform: `translate(${column * (width + CELL.gap)}px, ${row.start}px)`,
              }}
            >
              <Cell page={page} chosen={page.id === current} version={version} onChoose={onChoose} onOpen={onOpen} />
            </li>
          )),
        )}
      </ul>
    </div>
  );
}

type CellProps = { page: PageRow; chosen: boolean; version: Version } & Pick<PageGridProps, 'onChoose' | 'onOpen'>;

const Cell = memo(function Cell({ page, chosen, version, onChoose, onOpen }: CellProps) {
  const what = page.state === 'aside' ? `aside: ${page.aside}` : STATE_WORDS[page.state];
  return (
    <button
      type="button"
      aria-label={`Page ${page.number}, ${page.source}, ${what}`}
      aria-pressed={chosen}
      data-page={page.id}
      tabIndex={chosen ? 0 : -1}
      onClick={(event) => (event.detail === 0 ? onOpen(page) : onChoose(page))}
      onDoubleClick={() => onOpen(page)}
      className={`flex h-full w-full flex-col rounded-md p-2 ${chosen ? 'bg-accent text-pale-ink' : 'bg-surround-deep text-pale-ink'}`}
    >
      <Picture page={page} version={version} />
      <span className="mt-1.5 flex w-full items-center gap-2">
        <span className="font-mono">{page.number}</span>
        <span className="min-w-0 flex-1 truncate text-left text-xs" title={page.source}>
          {page.source}
          {page.frames > 1 && ` · ${page.frame + 1}`}
        </span>
        {page.aside && <span className="shrink-0 text-xs">{page.aside}</span>}
        <Mark state={page.state} verdict={page.verdict} />
      </span>
    </button>
  );
});

function Picture({ page, version }: { page: PageRow; version: Version }) {
  // A page that is held out has no corrected version that anybody gets to see: show what it is.
  const clean = version === 'clean' && page.clean && !page.aside;
  const address = clean
    ? `/thumbs/render/${page.clean}.webp`
    : page.original
      ? `/thumbs/measure/${page.original}.webp`
      : null;
  if (page.state === 'failed' && !address)
    return <span className="flex min-h-0 flex-1 items-center p-1 text-left text-xs">{page.error}</span>;
  if (!address)
    return <span className="flex min-h-0 flex-1 items-center justify-center text-xs">{STATE_WORDS[page.state]}</span>;
  return (
    <span className="flex min-h-0 w-full flex-1 items-center justify-center">
      <img
        src={address}
        alt=""
        draggable={false}
        loading="lazy"
        className={`max-h-full max-w-full ${page.state === 'aside' ? 'opacity-60' : ''}`}
      />
    </span>
  );
}
