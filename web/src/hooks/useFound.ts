import { useQuery } from '@tanstack/react-query';
import { foundStationsQuery, useStations } from '@/api/capture';
import { useMay } from '@/api/people';

export type Found = ReturnType<typeof useFound>;

/** Stations that were found on the network, and the first of them that can be put on the list by whoever is here. */
export function useFound() {
  const { data: stations = [] } = useQuery(foundStationsQuery);
  const { mutate: add } = useStations().addFound;
  const may = useMay('stations');
  const first = may ? stations.find(({ problem }) => !problem) : undefined;
  return { stations, may, first, add };
}
