/** The text of stacks: its figures, its doubtful words, words of a page, the same elsewhere, words found. */

import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, told } from './client';
import type { Box, Doubt } from './types';

/** So many doubtful words come at a time. */
export const BATCH = 40;

export const figuresQuery = (stackId: number, page: number | undefined, change: number) =>
  queryOptions({
    queryKey: ['text figures', stackId, page ?? 0, change],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/stacks/{stack_id}/reading', {
          params: { path: { stack_id: stackId }, query: page === undefined ? {} : { page } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** The doubtful words behind one, worst first. */
export function doubtsAfter(stackId: number, page: number | undefined, after: Doubt | undefined): Promise<Doubt[]> {
  const behind = after ? { doubt: after.doubt, from_page: after.page, place: after.place } : {};
  return told(
    api.GET('/api/v1/stacks/{stack_id}/doubts', {
      params: {
        path: { stack_id: stackId },
        query: { most: BATCH, ...(page === undefined ? {} : { page }), ...behind },
      },
    }),
  );
}

export const wordsQuery = (page: number, change: number) =>
  queryOptions({
    queryKey: ['page words', page, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/pages/{page_id}/words', { params: { path: { page_id: page } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const alikeQuery = (page: number, box: Box, change: number) =>
  queryOptions({
    queryKey: ['alike', page, box.join(), change],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/pages/{page_id}/alike', {
          params: { path: { page_id: page }, query: { box: box.join() } },
          signal,
        }),
      ),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const foundQuery = (stackId: number, words: string, change: number) =>
  queryOptions({
    queryKey: ['found', stackId, words, change],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/stacks/{stack_id}/found', {
          params: { path: { stack_id: stackId }, query: { words } },
          signal,
        }),
      ),
    enabled: words.trim() !== '',
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const foundOnQuery = (page: number, words: string, change: number) =>
  queryOptions({
    queryKey: ['found on', page, words, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/pages/{page_id}/found', { params: { path: { page_id: page }, query: { words } }, signal })),
    enabled: words.trim() !== '',
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const wordListQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['word list', stackId, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/word-list', { params: { path: { stack_id: stackId } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What pages of a stack seem to be written in, and are not read in. */
export const proposedQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['proposed languages', stackId, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/languages', { params: { path: { stack_id: stackId } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Where the text of a stack is fetched as a file. */
export const textAddress = (stackId: number, form: 'txt' | 'alto' | 'hocr'): string =>
  `/api/v1/stacks/${stackId}/text?form=${form}`;
