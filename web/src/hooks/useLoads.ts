import { useQuery } from '@tanstack/react-query';
import { useEffect, useReducer } from 'react';
import { runsQuery, useSingle } from '@/api/capture';
import type { PageRow, Run } from '@/api/types';
import { loading, NO_LOADS, seen } from '@/engine/capture/loads';

const NONE: Run[] = [];

/** The captures of a stack, and which of them is looked at. */
export function useLoads(stackId: number | undefined, station: number | undefined, pages: readonly PageRow[]) {
  const { data: runs } = useQuery({ ...runsQuery(stackId ?? 0), enabled: stackId !== undefined });
  const [state, happen] = useReducer(loading, NO_LOADS);
  useEffect(() => {
    if (runs) happen({ kind: 'listed', runs });
  }, [runs]);
  const found = seen(state, runs ?? NONE, station, pages);
  const keep = useSingle(stackId);
  const fronts = found.pair?.fronts.id;
  const markSingle = (sheets: ReadonlySet<number>) => {
    if (fronts === undefined) return;
    happen({ kind: 'single', run: fronts, sheets });
    keep({ run: fronts, sheets: [...sheets] });
  };
  return { ...found, happen, markSingle };
}

export type LoadsModel = ReturnType<typeof useLoads>;
