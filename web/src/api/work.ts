/** What is worked on first, and trying again what failed. */

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { notify } from '@/engine/notices';
import { counted } from '@/words/figures';
import { api, told } from './client';

/** Tells the server what is before somebody's eyes: that page, then that stack, is worked on first. */
export function useViewing(stackId: number, page: number | null): void {
  useEffect(() => {
    // A wish, not an edit: where it does not arrive, work goes on in its usual order.
    api
      .PUT('/api/v1/stacks/{stack_id}/viewing', { params: { path: { stack_id: stackId } }, body: { page } })
      .catch(() => undefined);
  }, [stackId, page]);
}

type What = { page: number } | { stack: number } | 'everything';

/** Has everything tried again that failed: on a page, in a stack, or everywhere. */
export function useRetry() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: What) => told(retried(what)),
    onSuccess: ({ pages, documents }) =>
      notify(
        pages || documents
          ? `Tried again: ${[pages && counted(pages, 'page'), documents && counted(documents, 'document')].filter(Boolean).join(' and ')}.`
          : 'Nothing is left to be tried again.',
      ),
    onSettled: () => client.invalidateQueries(),
  });
}

function retried(what: What) {
  if (what === 'everything') return api.POST('/api/v1/retry');
  return 'page' in what
    ? api.POST('/api/v1/pages/{page_id}/retry', { params: { path: { page_id: what.page } } })
    : api.POST('/api/v1/stacks/{stack_id}/retry', { params: { path: { stack_id: what.stack } } });
}
