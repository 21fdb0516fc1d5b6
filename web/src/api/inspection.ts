/** What is worth a look in a stack, with the verdicts that were given on it. */

import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, told } from './client';

/** The findings, and the stack's count of changes that they know of at least. */
export const findingsQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['findings', stackId, change],
    queryFn: async ({ signal }) => {
      const params = { path: { stack_id: stackId } };
      const findings = await told(api.GET('/api/v1/stacks/{stack_id}/findings', { params, signal }));
      return { change, findings };
    },
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
