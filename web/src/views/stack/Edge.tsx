import { useMemo } from 'react';
import type { PageRow } from '@/api/types';
import type { Happening } from '@/engine/selection/selection';
import { ForeEdge } from '@/ui/ForeEdge';
import { stateWords } from '@/ui/Mark';

export type EdgeProps = {
  pages: readonly PageRow[];
  current: PageRow | undefined;
  /** Pages that are chosen, or hold what is looked for. */
  marked: readonly PageRow[];
  /** Whether a drag along it chooses the pages it passes. */
  runs: boolean;
  onChoose: (happening: Happening) => void;
};

/** The fore-edge of a stack beside whatever view is open on it. */
export function Edge({ pages, current, marked, runs, onChoose }: EdgeProps) {
  const lines = useMemo(() => new Set(marked.map(({ number }) => number - 1)), [marked]);
  const run = (from: number, to: number) => {
    const [first, last] = from < to ? [from, to] : [to, from];
    onChoose({ kind: 'these', ids: pages.slice(first, last + 1).map(({ id }) => id), current: pages[to]?.id });
  };
  return (
    <nav
      aria-label="Fore-edge"
      className="on-surround flex h-18 w-full shrink-0 flex-col border-r border-hairline bg-surround p-2 lg:h-auto lg:w-28"
    >
      <ForeEdge
        lines={pages}
        current={current ? current.number - 1 : -1}
        chosen={lines}
        said={(index) => pageWords(pages[index], pages.length)}
        onGo={(index) => pages[index] && onChoose({ kind: 'only', id: pages[index].id })}
        {...(runs ? { onRun: run } : {})}
        className="h-full w-full"
      />
    </nav>
  );
}

/** A page in the words of a screen reader: its place, and how it stands. */
export function pageWords(page: PageRow | undefined, of: number): string {
  if (!page) return '';
  const standing = page.state === 'ready' && page.verdict === 'review' ? 'to review' : stateWords(page);
  return `Page ${page.number} of ${of}, ${standing}`;
}
