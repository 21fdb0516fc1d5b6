import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { isOpen, runsQuery } from '@/api/capture';
import type { PageRow, Run, Station } from '@/api/types';
import { halves, inOrder } from '@/engine/capture/halves';

/** A run that was over before the application was opened is history, not news. */
const opened = Date.now();
const wasSeen = (run: Run) => Date.parse(run.started_at) > opened - 60_000;

/** Which capture is looked at, and whether fronts and backs wait to be brought together. */
export function useLoads(stackId: number, station: Station | undefined, pages: readonly PageRow[]) {
  const { data: runs } = useQuery(runsQuery(stackId));
  const [left, setLeft] = useState<number>();
  const [asked, setAsked] = useState(false);
  const [single, setSingle] = useState<ReadonlySet<number>>(new Set());
  const latest = runs?.[0];
  const pair = halves(runs);
  const news = latest && latest.id !== left && (latest.station === station?.id || latest.binds_as) && wasSeen(latest);
  const run = latest && (isOpen(latest) || latest.state === 'stopped' || news) ? latest : undefined;
  const unwoven = pair?.backs !== undefined && !inOrder(pair, pages);
  const weaving = unwoven && (asked || run?.id === pair.backs?.id) && pair.backs?.state === 'done';
  return {
    run,
    pair,
    unwoven,
    weaving,
    /** Sheets, by 0-based place, that have no back. */
    single,
    setSingle,
    askToWeave: () => setAsked(true),
    /** What has been captured last is seen and done with. */
    leave: () => {
      setLeft(latest?.id);
      setAsked(false);
    },
    /** A new capture begins. */
    begin: (half: '' | 'fronts' | 'backs') => {
      setLeft(undefined);
      setAsked(false);
      if (half === 'fronts') setSingle(new Set());
    },
  };
}

export type Loads = ReturnType<typeof useLoads>;
