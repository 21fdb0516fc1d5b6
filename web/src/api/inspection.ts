/** What is worth a look in a stack, with the verdicts that were given on it. */

import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, told } from './client';

export const findingsQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['findings', stackId, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/findings', { params: { path: { stack_id: stackId } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
