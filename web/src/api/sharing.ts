/** Links to documents: giving and withdrawing them, and using one. */

import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, done, told } from './client';
import type { ShareAsked, SharedDescription, WordMended } from './types';

export const sharesQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['shares', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/shares', { params: { path: { stack_id: stackId } }, signal })),
    refetchInterval: 10_000,
  });

export function useShares(stackId: number) {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ['shares', stackId] });
  return {
    give: useMutation({
      mutationFn: ({ document, share }: { document: number; share: ShareAsked }) =>
        told(
          api.POST('/api/v1/documents/{document_id}/shares', {
            params: { path: { document_id: document } },
            body: share,
          }),
        ),
      onSuccess,
    }),
    withdraw: useMutation({
      mutationFn: (id: number) => done(api.DELETE('/api/v1/shares/{share_id}', { params: { path: { share_id: id } } })),
      onSuccess,
    }),
  };
}

export const sharedQuery = (secret: string) =>
  queryOptions({
    queryKey: ['shared', secret],
    queryFn: ({ signal }) => told(api.GET('/api/v1/shared/{secret}', { params: { path: { secret } }, signal })),
    retry: false,
  });

export function useOpenShared(secret: string) {
  return useMutation({
    mutationFn: (password: string) =>
      told(api.POST('/api/v1/shared/{secret}/visits', { params: { path: { secret } }, body: { password } })),
    // It is said at the door.
    onError: () => undefined,
  });
}

/** Where a page of a link, or its file, is fetched. */
export const sharedAddress = (secret: string, what: `pages/${number}` | 'file', visit: string) =>
  `/api/v1/shared/${encodeURIComponent(secret)}/${what}?${new URLSearchParams({ visit })}`;

export const sharedWordsQuery = (secret: string, visit: string, page: number) =>
  queryOptions({
    queryKey: ['shared words', secret, page],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/shared/{secret}/pages/{number}/words', {
          params: { path: { secret, number: page }, query: { visit } },
          signal,
        }),
      ),
    retry: false,
  });

export const sharedDescriptionQuery = (secret: string, visit: string) =>
  queryOptions({
    queryKey: ['shared description', secret],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/shared/{secret}/description', { params: { path: { secret }, query: { visit } }, signal })),
    retry: false,
  });

/** Putting words of a shared document, and what is said of it, right. What was refused is said beside it. */
export function useMendShared(secret: string, visit: string) {
  const client = useQueryClient();
  const query = { visit };
  return {
    word: useMutation({
      mutationFn: ({ page, body }: { page: number; body: WordMended }) =>
        done(
          api.POST('/api/v1/shared/{secret}/pages/{number}/words', {
            params: { path: { secret, number: page }, query },
            body,
          }),
        ),
      onError: () => undefined,
      onSettled: (_, __, { page }) => client.invalidateQueries({ queryKey: ['shared words', secret, page] }),
    }),
    description: useMutation({
      mutationFn: (body: SharedDescription) =>
        done(api.PUT('/api/v1/shared/{secret}/description', { params: { path: { secret }, query }, body })),
      onError: () => undefined,
      onSettled: () => client.invalidateQueries({ queryKey: ['shared description', secret] }),
    }),
  };
}
