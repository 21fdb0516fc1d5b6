import { useState } from 'react';
import type { Wish } from '@/api/bench';
import type { Doing, Page } from '@/api/types';
import { downTheMiddle, type Ends, endsOf, lineThrough, type SplitLine } from '@/engine/geometry/splitLine';
import type { Lie } from '@/engine/zoom/view';

type Hands = {
  /** Where the line was moved to and is not saved yet. */
  movedTo: Wish['split'];
  set: (part: Wish) => void;
  change: (doing: Doing) => void;
};

/** The line between two pages of an image: where the fold was measured, or where a hand put it. */
export function useSplitLine({ row, override, measurements }: Page, lie: Lie, { movedTo, set, change }: Hands) {
  const [drawn, setDrawn] = useState<{ page: number; line: SplitLine }>();
  const { captured, turn } = lie;
  const through = (ends: Ends | null | undefined) => (ends ? lineThrough(ends, captured, turn) : undefined);
  const split = movedTo ?? override.split;
  const line =
    through(split && ([split.start, split.end] as Ends)) ??
    (drawn?.page === row.id ? drawn.line : undefined) ??
    through(measurements?.gutter as Ends | null | undefined) ??
    downTheMiddle(lie.quad, captured, turn);
  const half = override.split != null;

  const asEnds = (of: SplitLine) => {
    const [start, end] = endsOf(of, captured, turn);
    return { start: [...start] as [number, number], end: [...end] as [number, number] };
  };
  const move = (next: SplitLine) => (half ? set({ split: asEnds(next) }) : setDrawn({ page: row.id, line: next }));
  return {
    line,
    /** Whether the page is half of an image that was split along it. */
    half,
    move,
    moveBy: (px: number) => move({ top: line.top + px, bottom: line.bottom + px }),
    split: () => change({ do: 'split', page: row.id, ...asEnds(line) }),
    unsplit: () => change({ do: 'unsplit', page: row.id }),
  };
}
