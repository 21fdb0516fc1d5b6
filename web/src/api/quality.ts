/** How well stations capture, by images of the quality target. */

import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { notify } from '@/engine/notices';
import { api, told } from './client';

export const stationQualityQuery = (stationId: number) =>
  queryOptions({
    queryKey: ['station quality', stationId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stations/{station_id}/quality', { params: { path: { station_id: stationId } }, signal })),
  });

/** Measuring a station by a page that shows the target; `patches` is the text of the file that says what its patches are. */
export function useStationCheck() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ page, patches }: { page: number; patches: string }) =>
      told(
        api.POST('/api/v1/pages/{page_id}/station-check', {
          params: { path: { page_id: page } },
          body: { patches },
        }),
      ),
    onSuccess: (quality) => {
      client.setQueryData(['station quality', quality.station], quality);
      client.invalidateQueries({ queryKey: ['stations'] });
      notify(`${quality.name} is measured by this page.`);
    },
  });
}
