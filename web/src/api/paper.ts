import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { PaperSource } from '@/words/paper';
import { stationsQuery } from './capture';
import { api, told } from './client';
import type { PaperPath } from './types';

type Of = { station: number; source: PaperSource };

/** Saying how paper goes into a source, and having a test sheet show it. */
export function usePaperPath() {
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: ({ station, source, path }: Of & { path: PaperPath }) =>
      told(
        api.PUT('/api/v1/stations/{station_id}/paper/{source}', {
          params: { path: { station_id: station, source } },
          body: path,
        }),
      ),
    // Known at once: the next capture must not ask again.
    onSuccess: (changed) =>
      client.setQueryData(stationsQuery.queryKey, (all) => all?.map((one) => (one.id === changed.id ? changed : one))),
  });
  const trial = useMutation({
    mutationFn: ({ station, source, laid }: Of & { laid: PaperPath['face'] }) =>
      told(
        api.POST('/api/v1/stations/{station_id}/paper/{source}/test-sheet', {
          params: { path: { station_id: station, source } },
          body: { laid },
        }),
      ),
  });
  return { keep, trial };
}
