import {
  infiniteQueryOptions,
  keepPreviousData,
  queryOptions,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { get, post, Refusal, remove, setCsrf } from './client';
import type {
  BoundDocument,
  Change,
  Doing,
  History,
  Page,
  PageRow,
  Pages,
  PagesNews,
  Session,
  Stack,
  StackFinding,
} from './types';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async ({ signal }) => keepToken(await get<Session>('/api/v1/session', signal)),
  staleTime: Number.POSITIVE_INFINITY,
});

export function keepToken(session: Session): Session {
  setCsrf(session.csrf);
  return session;
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (who: { user: string; password: string }) =>
      keepToken(await post<Session>('/api/v1/session', who)),
    onSuccess: (session) => client.setQueryData(sessionQuery.queryKey, session),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () => keepToken(await remove<Session>('/api/v1/session')),
    onSuccess: (session) => {
      client.setQueryData(sessionQuery.queryKey, session);
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
    },
  });
}

const SHELF = 60;

/** Stacks on the shelf, so many at a time, the newest first. */
export const stacksQuery = infiniteQueryOptions({
  queryKey: ['stacks'],
  queryFn: ({ signal, pageParam }) =>
    get<Stack[]>(`/api/v1/stacks?limit=${SHELF}${pageParam ? `&before=${pageParam}` : ''}`, signal),
  initialPageParam: 0,
  getNextPageParam: (last) => (last.length === SHELF ? last.at(-1)?.id : undefined),
  refetchInterval: 3000,
});

export const stackQuery = (id: number) =>
  queryOptions({ queryKey: ['stack', id], queryFn: ({ signal }) => get<Stack>(`/api/v1/stacks/${id}`, signal) });

export const pageQuery = (id: number, revision: string) =>
  queryOptions({
    queryKey: ['page', id, revision],
    queryFn: ({ signal }) => get<Page>(`/api/v1/pages/${id}`, signal),
    placeholderData: keepPreviousData,
  });

export const documentsQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['documents', stackId, change],
    queryFn: ({ signal }) => get<BoundDocument[]>(`/api/v1/stacks/${stackId}/documents`, signal),
    placeholderData: keepPreviousData,
  });

/** Known pages with what is new laid over them, in stack order. Unchanged rows stay the same objects. */
export function merged(known: Pages | undefined, { pages, order, ...news }: PagesNews): Pages {
  const byId = new Map<number, PageRow | PagesNews['pages'][number]>(known?.pages.map((page) => [page.id, page]));
  for (const page of pages) byId.set(page.id, page);
  const ids = order ?? known?.pages.map(({ id }) => id) ?? [];
  if (known && !order && pages.length === 0) return { ...news, pages: known.pages };
  return {
    ...news,
    pages: ids.flatMap((id, index) => {
      const row = byId.get(id);
      if (!row) return [];
      return 'number' in row && row.number === index + 1 ? row : { ...row, number: index + 1 };
    }),
  };
}

/** The pages of a stack, kept up to date: the server says when something changed, and only that is fetched. */
export function useStackPages(stackId: number) {
  const client = useQueryClient();
  const [online, setOnline] = useState(true);
  const query = useQuery({
    queryKey: ['pages', stackId],
    queryFn: async ({ signal }) => {
      const known = client.getQueryData<Pages>(['pages', stackId]);
      const news = await get<PagesNews>(`/api/v1/stacks/${stackId}/pages?since=${known?.change ?? 0}`, signal);
      return merged(known, news);
    },
    // The engine's sign of life comes with it.
    refetchInterval: ({ state }) => (state.data?.engine === false ? 2000 : 10_000),
  });
  useEffect(() => {
    const events = new EventSource(`/api/v1/stacks/${stackId}/events`);
    events.onmessage = (event) => {
      setOnline(true);
      const known = client.getQueryData<Pages>(['pages', stackId]);
      if (known && known.change !== Number(event.data)) client.invalidateQueries({ queryKey: ['pages', stackId] });
    };
    events.onerror = () => setOnline(false);
    events.onopen = () => setOnline(true);
    return () => events.close();
  }, [client, stackId]);
  return { ...query, online };
}

export const historyQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['history', stackId, change],
    queryFn: ({ signal }) => get<History>(`/api/v1/stacks/${stackId}/changes`, signal),
    placeholderData: keepPreviousData,
  });

export const checksQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['checks', stackId, change],
    queryFn: ({ signal }) => get<StackFinding[]>(`/api/v1/stacks/${stackId}/checks`, signal),
    placeholderData: keepPreviousData,
  });

/** Do something to pages by hand; one after the other, each knowing what the one before it led to. */
export function useChange(stackId: number) {
  const client = useQueryClient();
  const fresh = () => {
    client.invalidateQueries({ queryKey: ['stack', stackId] });
    return client.invalidateQueries({ queryKey: ['pages', stackId] });
  };
  const scope = { id: `changes of ${stackId}` };
  const doing = useMutation({
    scope,
    mutationFn: (doing: Doing) => {
      const seen = client.getQueryData<Pages>(['pages', stackId])?.change ?? 0;
      return post<Change>(`/api/v1/stacks/${stackId}/changes`, { seen, doing });
    },
    onSettled: fresh,
  });
  const turning = useMutation({
    scope,
    mutationFn: async (way: 'undo' | 'redo') => {
      const history = await get<History>(`/api/v1/stacks/${stackId}/changes`);
      const change = history[way];
      if (change === null)
        throw new Refusal(way === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.', 0);
      return post<Change>(`/api/v1/stacks/${stackId}/changes/${change}/${way}`, {});
    },
    onSettled: fresh,
  });
  return { change: doing.mutate, turn: turning.mutate, busy: doing.isPending || turning.isPending };
}

export function useBind(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (title: string) => post<BoundDocument[]>(`/api/v1/stacks/${stackId}/documents`, { title }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['documents', stackId] }),
  });
}
