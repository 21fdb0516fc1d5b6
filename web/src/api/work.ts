/** What is worked on first, and trying again what failed. */

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { notify } from '@/ui/Notices';
import { counted } from '@/words/figures';
import { post, put } from './client';
import type { Tried } from './types';

/** Tells the server what is before somebody's eyes: that page, then that stack, is worked on first. */
export function useViewing(stackId: number, page: number | null): void {
  useEffect(() => {
    // A wish, not an edit: where it does not arrive, work goes on in its usual order.
    put(`/api/v1/stacks/${stackId}/viewing`, { page }).catch(() => undefined);
  }, [stackId, page]);
}

/** Has everything tried again that failed: on a page, in a stack, or everywhere. */
export function useRetry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: { page: number } | { stack: number } | 'everything') =>
      post<Tried>(`/api/v1${what === 'everything' ? '' : addressOf(what)}/retry`, {}),
    onSuccess: ({ pages, documents }) =>
      notify(
        pages || documents
          ? `Tried again: ${[pages && counted(pages, 'page'), documents && counted(documents, 'document')].filter(Boolean).join(' and ')}.`
          : 'Nothing is left to be tried again.',
      ),
    onSettled: () => client.invalidateQueries(),
  });
}

const addressOf = (what: { page: number } | { stack: number }) =>
  'page' in what ? `/pages/${what.page}` : `/stacks/${what.stack}`;
