/** The shelf: parts of its list, how many stacks there are of each, collections, views that are kept. */

import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { type ShelfAsked, since } from '@/engine/shelf/asked';
import { WINDOW } from '@/engine/shelf/windows';
import { api, done, told } from './client';
import { stackQuery } from './queries';
import type { CollectionSaid } from './types';

/** So many stacks of the shelf from a place on; what is in view is kept fresh. */
export const stacksQuery = (asked: ShelfAsked, part: number) =>
  queryOptions({
    queryKey: ['stacks', asked, part],
    queryFn: ({ signal }) => {
      const { at, named, collection, by, span, sort } = asked;
      const first = since(span, new Date());
      const query = {
        at,
        named,
        by,
        sort,
        start: part * WINDOW,
        limit: WINDOW,
        ...(collection === null ? {} : { collection }),
        ...(first ? { since: first } : {}),
      };
      return told(api.GET('/api/v1/stacks', { params: { query }, signal }));
    },
    placeholderData: keepPreviousData,
    refetchInterval: 3000,
    // Asked for ahead of the view, it is not asked for again as soon as that is there.
    staleTime: 2000,
  });

export const shelfQuery = queryOptions({
  queryKey: ['shelf'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/shelf', { signal })),
  refetchInterval: 6000,
});

export const collectionsQuery = queryOptions({
  queryKey: ['collections'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/collections', { signal })),
});

export const viewsQuery = queryOptions({
  queryKey: ['shelf', 'views'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/shelf/views', { signal })),
});

function useRefreshed() {
  const client = useQueryClient();
  return () =>
    Promise.all(['stacks', 'shelf', 'collections'].map((key) => client.invalidateQueries({ queryKey: [key] })));
}

export function useKeepView() {
  const refresh = useRefreshed();
  return useMutation({
    mutationFn: (view: { name: string; asked: string }) => told(api.POST('/api/v1/shelf/views', { body: view })),
    onSuccess: refresh,
  });
}

export function useForgetView() {
  const refresh = useRefreshed();
  return useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/shelf/views/{view_id}', { params: { path: { view_id: id } } })),
    onSuccess: refresh,
  });
}

/** Putting a collection into the tree, or saying one anew. */
export function useSayCollection() {
  const refresh = useRefreshed();
  return useMutation({
    mutationFn: async ({ id, said }: { id: number | null; said: CollectionSaid }) => {
      if (id === null) return void (await told(api.POST('/api/v1/collections', { body: said })));
      const params = { path: { collection_id: id } };
      await done(api.PUT('/api/v1/collections/{collection_id}', { params, body: said }));
    },
    onSuccess: refresh,
  });
}

export function useDeleteCollection() {
  const refresh = useRefreshed();
  return useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/collections/{collection_id}', { params: { path: { collection_id: id } } })),
    onSuccess: refresh,
  });
}

/** Filing stacks under a collection; null is nowhere. */
export function useFileStacks() {
  const refresh = useRefreshed();
  return useMutation({
    mutationFn: (filing: { stacks: number[]; collection: number | null }) =>
      told(api.POST('/api/v1/filings', { body: filing })),
    onSuccess: refresh,
  });
}

/** Closing stacks to changes, or opening them again; all of them or none. */
export function useCloseStacks() {
  const refresh = useRefreshed();
  const client = useQueryClient();
  return useMutation({
    mutationFn: (closing: { stacks: number[]; closed: boolean }) =>
      told(api.POST('/api/v1/closings', { body: closing })),
    onSuccess: (_, { stacks }) =>
      Promise.all([refresh(), ...stacks.map((id) => client.invalidateQueries({ queryKey: stackQuery(id).queryKey }))]),
  });
}
