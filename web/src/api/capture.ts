import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import type { Frame } from '@/engine/geometry/frames';
import { get, post, remove } from './client';
import type { CaptureSettings, Run, Station } from './types';

export const stationsQuery = queryOptions({
  queryKey: ['stations'],
  queryFn: ({ signal }) => get<Station[]>('/api/v1/stations', signal),
  refetchInterval: 2000,
});

const OPEN = new Set<Run['state']>(['wanted', 'running', 'cancelling']);
export const isOpen = (run: Run | undefined) => run !== undefined && OPEN.has(run.state);

export const runsQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['runs', stackId],
    queryFn: ({ signal }) => get<Run[]>(`/api/v1/stacks/${stackId}/runs`, signal),
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? 400 : 3000),
  });

/** Have a station look over its glass; returns the address of the picture and the name by which frames are asked for. */
export async function prescanOf(stationId: number): Promise<{ nonce: string; picture: string }> {
  const { nonce } = await post<{ nonce: string }>(`/api/v1/stations/${stationId}/prescans`, {});
  return { nonce, picture: `/api/v1/prescans/${nonce}.jpg` };
}

/** Frames proposed for what lies on the glass. */
export async function proposedFrames(nonce: string): Promise<Frame[]> {
  const found = await get<[number, number, number, number, number][]>(`/api/v1/prescans/${nonce}/frames`);
  return found.map(([x, y, width, height, angle]) => ({ x, y, width, height, angle }));
}

export function useCapture(stackId: number) {
  const client = useQueryClient();
  const fresh = () =>
    Promise.all(
      [['runs', stackId], ['stations'], ['pages', stackId]].map((queryKey) => client.invalidateQueries({ queryKey })),
    );
  const start = useMutation({
    mutationFn: (wish: { station: number; settings: CaptureSettings }) =>
      post<Run>(`/api/v1/stacks/${stackId}/runs`, wish),
    onSettled: fresh,
  });
  const steer = useMutation({
    mutationFn: ({ run, action }: { run: number; action: 'go-on' | 'finish' | 'cancel' }) =>
      post<Run>(`/api/v1/runs/${run}/${action}`, {}),
    onSettled: fresh,
  });
  return { start: start.mutate, starting: start.isPending, steer: steer.mutate, steering: steer.isPending };
}

export function useStations() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries({ queryKey: ['stations'] });
  const add = useMutation({
    mutationFn: (address: string) => post<Station>('/api/v1/stations', { address }),
    onSuccess: fresh,
  });
  const forget = useMutation({
    mutationFn: (id: number) => remove<void>(`/api/v1/stations/${id}`),
    onSuccess: fresh,
  });
  return { add, forget: forget.mutate };
}
