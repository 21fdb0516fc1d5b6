import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, done, told } from './client';
import type { CaptureSettings, DocumentsAfter } from './types';

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

export type NewSlip = {
  name: string;
  naming: string;
  station: number;
  settings: CaptureSettings;
  treatment: string;
  new_document_after: DocumentsAfter;
};

export function useSlips() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries({ queryKey: ['slips'] });
  const save = useMutation({
    mutationFn: (slip: NewSlip) => told(api.POST('/api/v1/order-slips', { body: slip })),
    onSuccess: fresh,
  });
  const drop = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/order-slips/{slip_id}', { params: { path: { slip_id: id } } })),
    onSettled: fresh,
  });
  const start = useMutation({
    mutationFn: (id: number) =>
      told(api.POST('/api/v1/order-slips/{slip_id}/start', { params: { path: { slip_id: id } } })),
  });
  const wait = useMutation({
    mutationFn: async ({ id, on }: { id: number; on: boolean }) => {
      const params = { path: { slip_id: id } };
      if (on) await told(api.PUT('/api/v1/order-slips/{slip_id}/waiting', { params }));
      else await done(api.DELETE('/api/v1/order-slips/{slip_id}/waiting', { params }));
    },
    onSettled: () => Promise.all([fresh(), client.invalidateQueries({ queryKey: ['stations'] })]),
  });
  return { save, drop, start, wait };
}
