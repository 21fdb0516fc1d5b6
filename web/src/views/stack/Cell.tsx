import { memo } from 'react';
import type { PageRow } from '@/api/types';
import type { Version } from '@/engine/version';
import { Mark, stateWords } from '@/ui/Mark';
import type { Filter } from './Filters';
import { Numbered, Outlined } from './Glances';

export type Edge = 'left' | 'right' | 'none';
export type CellProps = {
  page: PageRow;
  /** How many are shown, and its 1-based place among them. */
  place: number;
  among: number;
  chosen: boolean;
  current: boolean;
  cut: boolean;
  /** Whether a document begins with it. */
  begins: boolean;
  side: Edge;
  version: Version;
  /** On which sheet it is: what is drawn on it. */
  glance: Filter;
  onOpen: (page: PageRow) => void;
};

/** One page of the grid: its picture, its number, how it stands. */
export const Cell = memo(function Cell(props: CellProps) {
  const { page, place, among, chosen, current, cut, begins, side, version, glance, onOpen } = props;
  const marks = [
    page.state === 'aside' ? `aside: ${page.aside}` : stateWords(page),
    page.state === 'ready' && page.verdict === 'review' && 'to review',
    begins && 'document begins',
    page.rescan && 'to recapture',
    cut && 'cut',
    glance === 'turned' && page.turn && `turned ${page.turn}°`,
    glance === 'numbered' && page.printed && `bears the number ${page.printed}`,
  ].filter(Boolean);
  return (
    <div
      role="option"
      aria-label={`Page ${page.number}, ${page.source}, ${marks.join(', ')}`}
      aria-selected={chosen}
      aria-setsize={among}
      aria-posinset={place}
      data-page={page.id}
      tabIndex={current ? 0 : -1}
      onDoubleClick={() => onOpen(page)}
      className={`relative flex h-full w-full flex-col p-2 ${chosen ? 'bg-paper text-surround-ink' : 'text-surround-ink'} ${current ? 'outline-2 outline-surround-ink' : ''} ${cut ? 'opacity-55' : ''} ${side === 'left' ? 'pr-0.5' : side === 'right' ? 'pl-0.5' : ''}`}
    >
      {begins && <span aria-hidden="true" className="absolute inset-y-0 -left-1 w-1 bg-surround-ink" />}
      {glance === 'numbered' ? (
        <Numbered page={page} />
      ) : glance === 'cropped' || (glance === 'aside' && page.traces) ? (
        <Outlined page={page} />
      ) : (
        <Picture page={page} version={version} side={side} />
      )}
      <span className="mt-1.5 flex w-full items-center gap-2 px-0.5">
        <span className={`font-mono ${chosen ? 'font-semibold' : ''}`}>{page.number}</span>
        <span className="min-w-0 flex-1 truncate text-left text-small">
          {page.source}
          {page.frames > 1 && ` · ${page.frame + 1}`}
        </span>
        {glance === 'turned' && <span className="shrink-0 font-mono text-small">{page.turn}°</span>}
        {page.rescan && <span className="shrink-0 text-small">recapture</span>}
        {page.aside && <span className="shrink-0 text-small">{page.aside}</span>}
        {page.trouble && <span className="shrink-0 text-small">held up</span>}
        <Mark state={page.state} verdict={page.verdict} />
      </span>
    </div>
  );
});

const ALIGN: Record<Edge, string> = { none: 'justify-center', left: 'justify-end', right: 'justify-start' };

function Picture({ page, version, side }: { page: PageRow; version: Version; side: Edge }) {
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
