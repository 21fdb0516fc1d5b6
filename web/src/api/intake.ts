import { keepPreviousData, queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Answers, type Draft, NOTHING_SAID } from '@/engine/capture/slip';
import { api, done, told } from './client';
import type { SlipJob } from './types';

const FOREVER = Number.POSITIVE_INFINITY;

/** Files that were announced for a stack and are not in it. */
export const expectedQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['expected', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/uploads', { params: { path: { stack_id: stackId } }, signal })),
  });

/** How much may come, and has come; asked again now and then, not at every change. */
export const quotasQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['quotas', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/quotas', { params: { path: { stack_id: stackId } }, signal })),
    refetchInterval: 30_000,
  });

export const watchQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['watch', stackId],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/watch', { params: { path: { stack_id: stackId } }, signal })),
  });

export const papersQuery = queryOptions({
  queryKey: ['papers'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/paper-sizes', { signal })),
  staleTime: FOREVER,
});

export const slipsQuery = queryOptions({
  queryKey: ['slips'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/order-slips', { signal })),
  // What waits at a station may be started, or stand against something, at any time.
  refetchInterval: ({ state }) => (state.data?.some(({ waiting }) => waiting) ? 3000 : false),
});

export function useWatch(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (on: boolean) =>
      told(api.PUT('/api/v1/stacks/{stack_id}/watch', { params: { path: { stack_id: stackId } }, body: { on } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['watch', stackId] }),
  });
}

/** What the next stacks of a slip would be called; not asked while it has neither a name nor a naming. */
export function useNextNames({ name, naming, asks, original }: Draft, slip: number | undefined) {
  const body = { name, naming, asks: [...asks], original, slip: slip ?? null };
  return useQuery({
    queryKey: ['next names', body],
    queryFn: ({ signal }) => told(api.POST('/api/v1/order-slips/names', { body, signal })),
    enabled: `${name}${naming}`.trim() !== '',
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useSlips() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries({ queryKey: ['slips'] });
  const save = useMutation({
    mutationFn: (job: SlipJob) => told(api.POST('/api/v1/order-slips', { body: job })),
    onSuccess: fresh,
  });
  const change = useMutation({
    mutationFn: ({ id, job }: { id: number; job: SlipJob }) =>
      told(api.PUT('/api/v1/order-slips/{slip_id}', { params: { path: { slip_id: id } }, body: job })),
    onSettled: fresh,
  });
  const copy = useMutation({
    mutationFn: (id: number) =>
      told(api.POST('/api/v1/order-slips/{slip_id}/copy', { params: { path: { slip_id: id } } })),
    onSettled: fresh,
  });
  const arrange = useMutation({
    mutationFn: (slips: number[]) => done(api.PUT('/api/v1/order-slips/order', { body: { slips } })),
    onSettled: fresh,
  });
  /** What starting it would come upon, without a sheet moved. */
  const dry = useMutation({
    mutationFn: (id: number) =>
      told(
        api.POST('/api/v1/order-slips/{slip_id}/dry-run', { params: { path: { slip_id: id } }, body: NOTHING_SAID }),
      ),
  });
  const drop = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/order-slips/{slip_id}', { params: { path: { slip_id: id } } })),
    onSettled: fresh,
  });
  const start = useMutation({
    mutationFn: ({ id, answers }: { id: number; answers?: Answers }) =>
      told(
        api.POST('/api/v1/order-slips/{slip_id}/start', {
          params: { path: { slip_id: id } },
          body: answers ?? null,
        }),
      ),
  });
  const wait = useMutation({
    mutationFn: async ({ id, on, answers }: { id: number; on: boolean; answers?: Answers }) => {
      const params = { path: { slip_id: id } };
      if (on) await told(api.PUT('/api/v1/order-slips/{slip_id}/waiting', { params, body: answers ?? null }));
      else await done(api.DELETE('/api/v1/order-slips/{slip_id}/waiting', { params }));
    },
    onSettled: () => Promise.all([fresh(), client.invalidateQueries({ queryKey: ['stations'] })]),
  });
  return { save, change, copy, arrange, dry, drop, start, wait };
}
