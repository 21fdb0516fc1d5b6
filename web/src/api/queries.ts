import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, setCsrf, told } from './client';
import type { Original, Session } from './types';

export const sessionQuery = queryOptions({
  queryKey: ['session'],
  queryFn: async ({ signal }) => keepToken(await told(api.GET('/api/v1/session', { signal }))),
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
      keepToken(await told(api.POST('/api/v1/session', { body: who }))),
    onSuccess: (session) => client.setQueryData(sessionQuery.queryKey, session),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () => keepToken(await told(api.DELETE('/api/v1/session'))),
    onSuccess: (session) => {
      client.setQueryData(sessionQuery.queryKey, session);
      client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
    },
  });
}

export const stackQuery = (id: number) =>
  queryOptions({
    queryKey: ['stack', id],
    queryFn: ({ signal }) => told(api.GET('/api/v1/stacks/{stack_id}', { params: { path: { stack_id: id } }, signal })),
  });

export const pageQuery = (id: number, revision: string) =>
  queryOptions({
    queryKey: ['page', id, revision],
    queryFn: ({ signal }) => told(api.GET('/api/v1/pages/{page_id}', { params: { path: { page_id: id } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

// Told anew when the list of pages has moved on; see StackFeed.
export const documentsQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['documents', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/documents', { params: { path: { stack_id: stackId } }, signal })),
  });

export const historyQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['history', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/changes', { params: { path: { stack_id: stackId } }, signal })),
  });

export function useRename(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (name: string) =>
      told(api.PATCH('/api/v1/stacks/{stack_id}', { params: { path: { stack_id: stackId } }, body: { name } })),
    onSuccess: (stack) => client.setQueryData(['stack', stackId], stack),
  });
}

/** Saying where the papers of a stack are, and what becomes of them. */
export function useOriginal(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (original: Original) =>
      told(api.PATCH('/api/v1/stacks/{stack_id}', { params: { path: { stack_id: stackId } }, body: { original } })),
    onSuccess: (stack) => client.setQueryData(['stack', stackId], stack),
  });
}

export function useBind(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (title: string) =>
      told(
        api.POST('/api/v1/stacks/{stack_id}/documents', { params: { path: { stack_id: stackId } }, body: { title } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['documents', stackId] }),
  });
}
