/** Descriptions of a stack's documents to come, all of them at once. */

import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, outlives, told } from './client';
import type { Described, Descriptions, DraftDocument } from './types';

/** What is said anew: of documents, by the pages that they begin with, or of the stack. */
export type Said = { documents?: Record<string, DraftDocument>; stack?: Described };

/** With so many pages ready: others make other documents. */
export const descriptionsQuery = (stackId: number, ready: number) =>
  queryOptions({
    queryKey: ['descriptions', stackId, ready],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/descriptions', { params: { path: { stack_id: stackId } }, signal })),
    // While pages become ready the table stays, and with it what is being typed.
    placeholderData: (before: Descriptions | undefined, query) => (query?.queryKey[1] === stackId ? before : undefined),
  });

/** Say something of documents or of their stack; what is shown follows at once, and goes back where it is refused. */
export function useDescribe(stackId: number, ready: number) {
  const client = useQueryClient();
  const { queryKey } = descriptionsQuery(stackId, ready);
  const anew = () => {
    client.invalidateQueries({ queryKey: ['descriptions', stackId] });
    client.invalidateQueries({ queryKey: ['binding', stackId] });
  };
  const mutationKey = ['describe', stackId];
  const say = useMutation({
    mutationKey,
    scope: { id: mutationKey.join(' ') },
    mutationFn: (said: Said) =>
      told(
        api.PATCH('/api/v1/stacks/{stack_id}/binding', {
          params: { path: { stack_id: stackId } },
          body: said,
          keepalive: outlives(said),
        }),
      ),
    onMutate: async ({ documents = {}, stack }) => {
      await client.cancelQueries({ queryKey });
      client.setQueryData(queryKey, (before: Descriptions | undefined) =>
        before
          ? {
              ...before,
              stack: stack ?? before.stack,
              documents: before.documents.map((one) => ({ ...one, said: documents[one.page] ?? one.said })),
            }
          : before,
      );
    },
    // The last of several: what is being typed is made of what is shown.
    onSettled: () => client.isMutating({ mutationKey }) === 1 && anew(),
  });
  const body = (csv: string) => ({ params: { path: { stack_id: stackId } }, body: { csv } });
  const plan = useMutation({
    mutationFn: (csv: string) => told(api.POST('/api/v1/stacks/{stack_id}/descriptions/plan', body(csv))),
  });
  const take = useMutation({
    mutationFn: (csv: string) => told(api.POST('/api/v1/stacks/{stack_id}/descriptions', body(csv))),
    onSettled: anew,
  });
  return { say, plan, take };
}

/** Where the table is fetched as a file. */
export const tableAddress = (stackId: number) => `/api/v1/stacks/${stackId}/descriptions.csv`;
