import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type { Part } from '@/engine/capture/glass';
import { isOpen } from '@/engine/capture/loads';
import type { Frame } from '@/engine/geometry/frames';
import { api, done, told } from './client';
import type { CaptureSettings } from './types';

export type Steering = 'go-on' | 'pause' | 'finish' | 'cancel';

export const stationsQuery = queryOptions({
  queryKey: ['stations'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/stations', { signal })),
  refetchInterval: 2000,
});

/** Stations that announce themselves and are not on the list as they are. */
export const foundStationsQuery = queryOptions({
  queryKey: ['stations', 'found'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/stations/found', { signal })),
  refetchInterval: 3000,
});

export const runsQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['runs', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/runs', { params: { path: { stack_id: stackId } }, signal })),
    refetchInterval: ({ state }) => (state.data?.some((run) => isOpen(run)) ? 400 : 3000),
  });

/**
 * Have a station look over its glass, or more closely at a part of it; returns the address of the picture and the name by which
 * frames are asked for.
 */
export async function prescanOf(stationId: number, part?: Part): Promise<{ nonce: string; picture: string }> {
  const { nonce } = await told(
    api.POST('/api/v1/stations/{station_id}/prescans', {
      params: { path: { station_id: stationId } },
      body: part ? { part: [part.x, part.y, part.width, part.height] } : null,
    }),
  );
  return { nonce, picture: `/api/v1/prescans/${nonce}.jpg` };
}

/** Frames proposed for what lies on the glass, and whether its lid looks open. */
export async function proposedFrames(nonce: string): Promise<{ frames: Frame[]; lidOpen: boolean }> {
  const { frames, lid_open } = await told(api.GET('/api/v1/prescans/{nonce}/frames', { params: { path: { nonce } } }));
  return {
    frames: frames.map(([x = 0, y = 0, width = 0, height = 0, angle = 0]) => ({ x, y, width, height, angle })),
    lidOpen: lid_open,
  };
}

/** Starting and steering captures of a stack, which is begun with the first of them where there is none yet. */
export function useCapture(
  ensure: ((names: readonly string[]) => Promise<number>) | undefined,
  stackId: number | undefined,
) {
  const client = useQueryClient();
  const fresh = () =>
    Promise.all(
      [['runs', stackId], ['stations'], ['pages', stackId]].map((queryKey) => client.invalidateQueries({ queryKey })),
    );
  const start = useMutation({
    mutationFn: async (wish: { station: number; settings: CaptureSettings }) => {
      const into = stackId ?? (await ensure?.([]));
      if (into === undefined) throw new Error('There is no stack to capture into.');
      return told(api.POST('/api/v1/stacks/{stack_id}/runs', { params: { path: { stack_id: into } }, body: wish }));
    },
    onSettled: fresh,
  });
  const steer = useMutation({
    mutationFn: ({ run, action }: { run: number; action: Steering }) =>
      told(api.POST('/api/v1/runs/{run_id}/{action}', { params: { path: { run_id: run, action } } })),
    onSettled: fresh,
  });
  return { start: start.mutate, starting: start.isPending, steer: steer.mutate, steering: steer.isPending };
}

/** Sheets of a load of fronts that have no back: kept with it, for whoever captures the backs. */
export function useSingle(stackId: number | undefined) {
  const client = useQueryClient();
  const { mutate } = useMutation({
    mutationFn: ({ run, sheets }: { run: number; sheets: number[] }) =>
      told(api.PUT('/api/v1/runs/{run_id}/single', { params: { path: { run_id: run } }, body: { sheets } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['runs', stackId] }),
  });
  return mutate;
}

export function useStations() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries({ queryKey: ['stations'] });
  const add = useMutation({
    mutationFn: (address: string) => told(api.POST('/api/v1/stations', { body: { address, name: '', place: '' } })),
    onSuccess: fresh,
  });
  const addFound = useMutation({
    mutationFn: (id: number) =>
      told(api.POST('/api/v1/stations/found/{found_id}', { params: { path: { found_id: id } } })),
    onSettled: fresh,
  });
  const describe = useMutation({
    mutationFn: ({ id, ...change }: { id: number; name?: string; place?: string }) =>
      told(api.PATCH('/api/v1/stations/{station_id}', { params: { path: { station_id: id } }, body: change })),
    onSettled: fresh,
  });
  const mark = useMutation({
    mutationFn: (id: number) =>
      told(api.POST('/api/v1/stations/{station_id}/mark', { params: { path: { station_id: id } } })),
  });
  const forget = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/stations/{station_id}', { params: { path: { station_id: id } } })),
    onSuccess: fresh,
  });
  return { add, addFound, describe, mark, forget: forget.mutate };
}
