/** What pages say of their document themselves, and how identifiers are written. */

import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, done, told } from './client';

export const offersQuery = (stackId: number, page: number) =>
  queryOptions({
    queryKey: ['offers', stackId, page],
    queryFn: ({ signal }) => {
      const params = { path: { stack_id: stackId }, query: { page } };
      return told(api.GET('/api/v1/stacks/{stack_id}/offers', { params, signal }));
    },
    retry: false,
  });

export const patternsQuery = queryOptions({
  queryKey: ['identifier patterns'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/identifier-patterns', { signal })),
});

/** What a pattern, or the one that an example makes, finds in a stack. */
export const trialQuery = (stack: number, asked: { example: string; pattern: string }) =>
  queryOptions({
    queryKey: ['pattern trial', stack, asked],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/identifier-patterns/trial', { params: { query: { stack, ...asked } }, signal })),
    enabled: asked.example.trim() !== '' || asked.pattern.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  });

export function usePatterns() {
  const client = useQueryClient();
  const onSuccess = () =>
    Promise.all(['offers', 'identifier patterns'].map((key) => client.invalidateQueries({ queryKey: [key] })));
  return {
    keep: useMutation({
      mutationFn: (pattern: string) =>
        told(api.POST('/api/v1/identifier-patterns', { body: { pattern, example: '' } })),
      onSuccess,
    }),
    remove: useMutation({
      mutationFn: (id: number) =>
        done(api.DELETE('/api/v1/identifier-patterns/{pattern_id}', { params: { path: { pattern_id: id } } })),
      onSuccess,
    }),
  };
}
