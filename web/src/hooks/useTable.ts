import { useState } from 'react';
import type { PageRow } from '@/api/types';
import { useCamera } from './useCamera';
import { useKept } from './useKept';

/** The camera as it was used last. */
const TABLE = { on: false, automatic: true, facing: false, name: 'page' };

export type Into = {
  /** The stack that pictures go into, begun with the first. */
  stack: (name: string) => Promise<number>;
  pages: readonly PageRow[];
  /** Files are on their way that would have to be chosen again. */
  sending: boolean;
};

/** The table under this browser's camera: whether it is in use, how pictures are taken there, and where they go. */
export function useTable({ stack, pages, sending }: Into) {
  const [kept, keep] = useKept('table', TABLE);
  const [instead, setInstead] = useState<PageRow>();
  const [quarter, setQuarter] = useState(0);
  const change = (next: Partial<typeof TABLE>) => keep({ ...kept, ...next });
  const camera = useCamera({
    on: kept.on,
    automatic: kept.automatic,
    quarter,
    prefix: kept.name.trim() || 'page',
    there: pages,
    sending,
    stack,
    where: () => {
      // One picture takes one page's place: the next is a new page again.
      setInstead(undefined);
      return { ...(instead ? { instead: instead.id } : {}), ...(kept.facing ? { facing: true } : {}) };
    },
  });
  return {
    camera,
    ...kept,
    change,
    instead,
    setInstead,
    quarter,
    turn: () => setQuarter((quarter + 1) % 4),
    ready: camera.seen.stage === 'open' && !camera.seen.taking,
    leave: () => {
      if (kept.on) change({ on: false });
    },
  };
}

export type Table = ReturnType<typeof useTable>;
