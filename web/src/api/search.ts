/** One question to all stacks, documents and pages. */

import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query';
import type { Asked } from '@/engine/search/asked';
import { api, told } from './client';

/** So many pages come at a time. */
const SOME = 12;

export const searchQuery = (asked: Asked) =>
  infiniteQueryOptions({
    queryKey: ['search', asked],
    queryFn: ({ signal, pageParam }) => {
      const { q, forgiving, kind, at, collection, station, first, last } = asked;
      const filed = collection === null ? {} : { collection };
      const years = { ...(first ? { first_year: first } : {}), ...(last ? { last_year: last } : {}) };
      const query = { q, forgiving, kind, at, station, ...filed, ...years, start: pageParam, most: SOME };
      return told(api.GET('/api/v1/search', { params: { query }, signal }));
    },
    initialPageParam: 0,
    getNextPageParam: ({ pages, count, more, most }, all) => {
      const shown = all.length * SOME;
      return pages.length && shown < most && (more || shown < count) ? shown : undefined;
    },
    enabled: asked.q.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  });

export const searchFiltersQuery = queryOptions({
  queryKey: ['search filters'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/search-filters', { signal })),
});
