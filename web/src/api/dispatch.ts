/** Where documents can be sent, what is on its way, and receipts. */

import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue } from 'react';
import { notify } from '@/engine/notices';
import { counted } from '@/words/figures';
import { api, done, told } from './client';
import type { Deliveries, DestinationAsked, DispatchAsked, MessageAsked, Shown } from './types';

const SOON = 1000;
const LATER = 10_000;

export const destinationsQuery = queryOptions({
  queryKey: ['destinations'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/destinations', { signal })),
});

export const placeholdersQuery = queryOptions({
  queryKey: ['placeholders'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/name-placeholders', { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The names that a pattern makes of what was bound last. */
export function useTriedNames(pattern: string, counter: number) {
  const steady = useDeferredValue(pattern);
  return useQuery({
    queryKey: ['names tried', steady, counter],
    queryFn: ({ signal }) =>
      told(api.POST('/api/v1/name-placeholders/try', { body: { pattern: steady, counter }, signal })),
    placeholderData: (before) => before,
    retry: false,
  });
}

/** Whether the papers of a stack may go. */
export const papersQuery = (stack: number) =>
  queryOptions({
    queryKey: ['deliveries', 'papers', stack],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/papers', { params: { path: { stack_id: stack } }, signal })),
    refetchInterval: LATER,
  });

/** To whom mail was sent before. */
export const recipientsQuery = queryOptions({
  queryKey: ['recipients'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/recipients', { signal })),
});

/** Of one stack, or of all; asked again soon while something is on its way. */
export const deliveriesQuery = (stack: number | undefined, show: Shown = 'all') =>
  queryOptions({
    queryKey: ['deliveries', stack ?? 'all', show],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/deliveries', { params: { query: { ...(stack ? { stack } : {}), show } }, signal })),
    refetchInterval: ({ state }) => (isMoving(state.data) ? SOON : LATER),
  });

const isMoving = (data: Deliveries | undefined) =>
  !!data && ((data.counts.open ?? 0) > 0 || data.deliveries.some(({ looking }) => looking));

/** What would be sent to a destination. */
export function usePreviewed(destination: number, documents: readonly number[], message?: MessageAsked) {
  return useQuery({
    queryKey: ['dispatch preview', destination, documents, message],
    queryFn: ({ signal }) =>
      told(
        api.POST('/api/v1/dispatches/preview', {
          body: { destination, documents: [...documents], ...(message ? { message } : {}) },
          signal,
        }),
      ),
    placeholderData: (before) => before,
    enabled: documents.length > 0,
  });
}

export function useDispatch() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries({ queryKey: ['deliveries'] });
  const send = useMutation({
    mutationFn: (body: DispatchAsked) => told(api.POST('/api/v1/dispatches', { body })),
    onSettled: fresh,
  });
  const steer = useMutation({
    mutationFn: ({ id, what }: { id: number; what: 'hold' | 'release' | 'cancel' | 'again' }) =>
      told(
        api.POST('/api/v1/deliveries/{delivery_id}/steer', {
          params: { path: { delivery_id: id } },
          body: { do: what },
        }),
      ),
    onSettled: fresh,
  });
  const check = useMutation({
    mutationFn: (which: { deliveries?: number[]; stack?: number }) =>
      told(api.POST('/api/v1/receipts/check', { body: { deliveries: [], ...which } })),
    onSuccess: ({ asked }) => notify(`Looking again at ${counted(asked, 'receipt')}.`),
    onSettled: fresh,
  });
  return { send, steer, check };
}

export function useDestinations() {
  const client = useQueryClient();
  const onSettled = () => client.invalidateQueries({ queryKey: ['destinations'] });
  const keep = useMutation({
    mutationFn: ({ id, asked }: { id: number | undefined; asked: DestinationAsked }) =>
      id === undefined
        ? told(api.POST('/api/v1/destinations', { body: asked }))
        : told(
            api.PUT('/api/v1/destinations/{destination_id}', {
              params: { path: { destination_id: id } },
              body: asked,
            }),
          ),
    onSettled,
  });
  const tryOut = useMutation({
    mutationFn: (id: number) =>
      told(api.POST('/api/v1/destinations/{destination_id}/try', { params: { path: { destination_id: id } } })),
    onSettled,
  });
  const remove = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/destinations/{destination_id}', { params: { path: { destination_id: id } } })),
    onSettled,
  });
  return { keep, tryOut, remove };
}
