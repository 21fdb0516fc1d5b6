import { useQuery } from '@tanstack/react-query';
import { useEffect, useReducer } from 'react';
import { runsQuery } from '@/api/capture';
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
  return { ...seen(state, runs ?? NONE, station, pages), single: state.single, happen };
}

export type LoadsModel = ReturnType<typeof useLoads>;
