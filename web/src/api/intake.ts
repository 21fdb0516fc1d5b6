import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { get, post, put, remove } from './client';
import type { CaptureSettings, DocumentsAfter, ExpectedFile, OrderSlip, PaperSize, Quota, Watch } from './types';

const FOREVER = Number.POSITIVE_INFINITY;

/** Files that were announced for a stack and are not in it. */
export const expectedQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['expected', stackId],
    queryFn: ({ signal }) => get<ExpectedFile[]>(`/api/v1/stacks/${stackId}/uploads`, signal),
  });

/** How much may come, and has come; asked again now and then, not at every change. */
export const quotasQuery = (stackId: number) =>
  queryOptions({
    queryKey: ['quotas', stackId],
    queryFn: ({ signal }) => get<Quota[]>(`/api/v1/stacks/${stackId}/quotas`, signal),
    refetchInterval: 30_000,
  });

export const watchQuery = (stackId: number, change: number) =>
  queryOptions({
    queryKey: ['watch', stackId, change],
    queryFn: ({ signal }) => get<Watch>(`/api/v1/stacks/${stackId}/watch`, signal),
    placeholderData: keepPreviousData,
  });

export const papersQuery = queryOptions({
  queryKey: ['papers'],
  queryFn: ({ signal }) => get<PaperSize[]>('/api/v1/paper-sizes', signal),
  staleTime: FOREVER,
});

export const slipsQuery = queryOptions({
  queryKey: ['slips'],
  queryFn: ({ signal }) => get<OrderSlip[]>('/api/v1/order-slips', signal),
});

export function useWatch(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (on: boolean) => put<Watch>(`/api/v1/stacks/${stackId}/watch`, { on }),
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
    mutationFn: (slip: NewSlip) => post<OrderSlip>('/api/v1/order-slips', slip),
    onSuccess: fresh,
  });
  const drop = useMutation({ mutationFn: (id: number) => remove(`/api/v1/order-slips/${id}`), onSettled: fresh });
  const start = useMutation({
    mutationFn: (id: number) => post<{ run: number; stack: number }>(`/api/v1/order-slips/${id}/start`, {}),
  });
  return { save, drop, start };
}
