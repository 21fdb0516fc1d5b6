/** People, what they may, what is their own; and what was deleted. */

import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { notify } from '@/engine/notices';
import { change } from './changes';
import { api, done, told } from './client';
import { keepToken, sessionQuery } from './queries';
import type { Right, Role } from './types';

/** What whoever is signed in may do; what is not among it is not offered, and refused by the server. */
export function useMay(right: Right): boolean {
  const { data } = useQuery(sessionQuery);
  return data?.rights.includes(right) ?? false;
}

export const ROLES: { value: Role; label: string; means: string }[] = [
  { value: 'reader', label: 'reader', means: 'sees stacks and fetches documents' },
  { value: 'inspector', label: 'inspector', means: 'looks, judges findings, draws samples, signs' },
  { value: 'technician', label: 'technician', means: 'does all work with pages' },
  { value: 'administrator', label: 'administrator', means: 'does all work, looks after people and stations' },
];

export const peopleQuery = queryOptions({
  queryKey: ['people'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/people', { signal })),
});
export const recordQuery = queryOptions({
  queryKey: ['record'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/record', { signal })),
});
export const tokensQuery = queryOptions({
  queryKey: ['tokens'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/tokens', { signal })),
});
export const binQuery = queryOptions({
  queryKey: ['bin'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/bin', { signal })),
});
export const languagesQuery = queryOptions({
  queryKey: ['languages'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/languages', { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

export function usePeople() {
  const client = useQueryClient();
  const fresh = () => {
    client.invalidateQueries({ queryKey: ['people'] });
    return client.invalidateQueries({ queryKey: ['record'] });
  };
  const change = useMutation({
    mutationFn: ({ id, ...what }: { id: number; role?: Role; active?: boolean }) =>
      told(api.PATCH('/api/v1/people/{person_id}', { params: { path: { person_id: id } }, body: what })),
    onSettled: fresh,
  });
  const endSessions = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/people/{person_id}/sessions', { params: { path: { person_id: id } } })),
    onSuccess: () => notify('Signed out everywhere.'),
    onSettled: fresh,
  });
  const invite = useMutation({
    mutationFn: (role: Role) => told(api.POST('/api/v1/invitations', { body: { role } })),
    onSettled: fresh,
  });
  return { change, endSessions, invite };
}

export function useAccount() {
  const client = useQueryClient();
  const password = useMutation({
    mutationFn: (change: { old: string; new: string }) => done(api.PUT('/api/v1/session/password', { body: change })),
    onSuccess: () => {
      notify('The password is changed, and every other session has ended.');
      return client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    },
  });
  const endAll = useMutation({
    mutationFn: () => done(api.DELETE('/api/v1/session/all')),
    onSuccess: () => client.invalidateQueries({ queryKey: sessionQuery.queryKey }),
  });
  const fresh = () => client.invalidateQueries({ queryKey: ['tokens'] });
  const make = useMutation({
    mutationFn: (token: { name: string; role: Role; days: number }) =>
      told(api.POST('/api/v1/tokens', { body: token })),
    onSettled: fresh,
  });
  const withdraw = useMutation({
    mutationFn: (id: number) => done(api.DELETE('/api/v1/tokens/{token_id}', { params: { path: { token_id: id } } })),
    onSettled: fresh,
  });
  return { password, endAll, make, withdraw };
}

export function useAccept() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (who: { secret: string; user: string; password: string }) =>
      keepToken(await told(api.POST('/api/v1/invitations/accept', { body: who }))),
    onSuccess: (session) => client.setQueryData(sessionQuery.queryKey, session),
  });
}

export function useBin() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries();
  const deleteDocument = useMutation({
    mutationFn: (id: number) =>
      done(api.DELETE('/api/v1/documents/{document_id}', { params: { path: { document_id: id } } })),
    onSettled: fresh,
  });
  const restore = useMutation({
    mutationFn: ({ kind, id }: { kind: 'stacks' | 'documents'; id: number }) =>
      done(
        kind === 'stacks'
          ? api.POST('/api/v1/bin/stacks/{stack_id}/restore', { params: { path: { stack_id: id } } })
          : api.POST('/api/v1/bin/documents/{document_id}/restore', { params: { path: { document_id: id } } }),
      ),
    onSettled: fresh,
  });
  const restorePages = useMutation({
    mutationFn: async ({ stack, pages }: { stack: number; pages: number[] }) => {
      const params = { path: { stack_id: stack } };
      const { change: seen } = await told(api.GET('/api/v1/stacks/{stack_id}', { params }));
      return change(stack, seen, crypto.randomUUID(), { do: 'restore', pages });
    },
    onSettled: fresh,
  });
  return { deleteDocument, restore, restorePages };
}

/** Throws a stack into the bin; `gone` is called when it is there, whatever view is shown by then. */
export function useDeleteStack(gone: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => done(api.DELETE('/api/v1/stacks/{stack_id}', { params: { path: { stack_id: id } } })),
    onSuccess: () => {
      gone();
      client.invalidateQueries({ queryKey: ['stacks'] });
      client.invalidateQueries({ queryKey: ['bin'] });
    },
  });
}
