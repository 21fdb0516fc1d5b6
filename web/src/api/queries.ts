import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { get, post, put, remove, setCsrf } from './client';
import type { BoundDocument, Page, PageRow, Pages, Session, Stack } from './types';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async ({ signal }) => keepToken(await get<Session>('/api/session', signal)),
  staleTime: Number.POSITIVE_INFINITY,
});

function keepToken(session: Session): Session {
  setCsrf(session.csrf);
  return session;
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (who: { user: string; password: string }) => keepToken(await post<Session>('/api/session', who)),
    onSuccess: (session) => client.setQueryData(sessionQuery.queryKey, session),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () => keepToken(await remove<Session>('/api/session')),
    onSuccess: (session) => {
      client.setQueryData(sessionQuery.queryKey, session);
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
    },
  });
}

export const stacksQuery = queryOptions({
  queryKey: ['stacks'],
  queryFn: ({ signal }) => get<Stack[]>('/api/stacks', signal),
  refetchInterval: 3000,
});

export const stackQuery = (id: number) =>
  queryOptions({ queryKey: ['stack', id], queryFn: ({ signal }) => get<Stack>(`/api/stacks/${id}`, signal) });

export const pageQuery = (id: number, revision: string) =>
  queryOptions({
    queryKey: ['page', id, revision],
    queryFn: ({ signal }) => get<Page>(`/api/pages/${id}`, signal),
    placeholderData: keepPreviousData,
  });

export const documentsQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['documents', stackId, change],
    queryFn: ({ signal }) => get<BoundDocument[]>(`/api/stacks/${stackId}/documents`, signal),
    placeholderData: keepPreviousData,
  });

/** Known pages with those that changed laid over them, in stack order. Unchanged rows stay the same objects. */
export function merged(known: Pages | undefined, news: Pages): Pages {
  if (!known) return news;
  if (news.pages.length === 0) return { ...news, pages: known.pages };
  const byId = new Map(known.pages.map((page) => [page.id, page]));
  for (const page of news.pages) byId.set(page.id, page);
  return { ...news, pages: [...byId.values()].sort((a, b) => a.number - b.number) };
}

/** The pages of a stack, kept up to date: the server says when something changed, and only that is fetched. */
export function useStackPages(stackId: number) {
  const client = useQueryClient();
  const [online, setOnline] = useState(true);
  const query = useQuery({
    queryKey: ['pages', stackId],
    queryFn: async ({ signal }) => {
      const known = client.getQueryData<Pages>(['pages', stackId]);
      const news = await get<Pages>(`/api/stacks/${stackId}/pages?since=${known?.change ?? 0}`, signal);
      return merged(known, news);
    },
    // The engine's sign of life comes with it.
    refetchInterval: ({ state }) => (state.data?.engine === false ? 2000 : 10_000),
  });
  useEffect(() => {
    const events = new EventSource(`/api/stacks/${stackId}/events`);
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

export function useSetAside(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ page, aside }: { page: PageRow; aside: boolean }) =>
      put<Page>(`/api/pages/${page.id}/aside`, { aside, seen: page.revision }),
    onSuccess: ({ row }) => {
      client.setQueryData<Pages>(
        ['pages', stackId],
        (known) => known && { ...known, pages: known.pages.map((page) => (page.id === row.id ? row : page)) },
      );
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['pages', stackId] }),
  });
}

export function useBind(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (title: string) => post<BoundDocument>(`/api/stacks/${stackId}/documents`, { title }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['documents', stackId] }),
  });
}
