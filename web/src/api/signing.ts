/** Samples of a stack, what is said of their pages, and who signs for it. */

import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, told } from './client';
import type { Sample, SampleAsked, Signing, Then, Worst } from './types';

/** How a lot would be looked at, as the stack stands by a count of changes. */
export const planQuery = (stackId: number, change: number, { first, level, aql }: SampleAsked) =>
  queryOptions({
    queryKey: ['plan', stackId, change, first, level, aql],
    queryFn: ({ signal }) =>
      told(
        api.GET('/api/v1/stacks/{stack_id}/plan', {
          params: { path: { stack_id: stackId }, query: { ...(first === null ? {} : { first }), level, aql } },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    // What is to be done first may be done by the machine, and then nothing of the stack changes.
    refetchInterval: ({ state }) => (state.data?.to_do.length ? AGAIN_MS : false),
  });

const AGAIN_MS = 2000;

export const signingQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['signing', stackId, change],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/signing', { params: { path: { stack_id: stackId } }, signal })),
    placeholderData: (before) => before,
    refetchInterval: ({ state }) => (state.data && !state.data.signed && !state.data.signable ? AGAIN_MS : false),
  });

export type Said = { page: number; worst: Worst; note: string; seen: string | null };

/** Everything that is done with samples and signatures; what is shown of them is fetched anew after each. */
export function useSigning(stackId: number) {
  const client = useQueryClient();
  const fresh = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: ['signing', stackId] }),
      client.invalidateQueries({ queryKey: ['plan', stackId] }),
      client.invalidateQueries({ queryKey: ['stack', stackId] }),
    ]);
  /** What came back of one sample takes its place in what is shown, before all of it is fetched anew. */
  const put = (sample: Sample) =>
    client.setQueriesData<Signing>({ queryKey: ['signing', stackId] }, (now) =>
      now ? { ...now, samples: now.samples.map((one) => (one.id === sample.id ? sample : one)) } : now,
    );
  const draw = useMutation({
    mutationFn: (asked: SampleAsked) =>
      told(api.POST('/api/v1/stacks/{stack_id}/samples', { params: { path: { stack_id: stackId } }, body: asked })),
    onSettled: fresh,
  });
  const look = useMutation({
    mutationFn: ({ sample, said: { page, ...said } }: { sample: number; said: Said }) =>
      told(
        api.PUT('/api/v1/samples/{sample_id}/looks/{page_id}', {
          params: { path: { sample_id: sample, page_id: page } },
          body: said,
        }),
      ),
    onSuccess: put,
    onError: fresh,
  });
  const forget = useMutation({
    mutationFn: ({ sample, page }: { sample: number; page: number }) =>
      told(
        api.DELETE('/api/v1/samples/{sample_id}/looks/{page_id}', {
          params: { path: { sample_id: sample, page_id: page } },
        }),
      ),
    onSuccess: put,
    onError: fresh,
  });
  const decide = useMutation({
    mutationFn: ({ sample, then }: { sample: number; then: Then }) =>
      told(
        api.PUT('/api/v1/samples/{sample_id}/decision', { params: { path: { sample_id: sample } }, body: { then } }),
      ),
    onSettled: fresh,
  });
  const sign = useMutation({
    mutationFn: () =>
      told(api.POST('/api/v1/stacks/{stack_id}/signatures', { params: { path: { stack_id: stackId } } })),
    onSettled: fresh,
  });
  const reopen = useMutation({
    mutationFn: (why: string) =>
      told(api.POST('/api/v1/stacks/{stack_id}/reopening', { params: { path: { stack_id: stackId } }, body: { why } })),
    onSettled: fresh,
  });
  return { draw, look, forget, decide, sign, reopen };
}
