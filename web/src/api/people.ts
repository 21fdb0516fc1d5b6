/** People, what they may, what is their own; and what was deleted. */

import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { notify } from '@/ui/Notices';
import { get, patch, post, put, remove } from './client';
import { keepToken, sessionQuery } from './queries';
import type { Bin, Invitation, Person, RecordLine, Right, Role, Session, Token } from './types';

/** What whoever is signed in may do; what is not among it is not offered, and refused by the server. */
export function useMay(right: Right): boolean {
  const { data } = useQuery(sessionQuery);
  return data?.rights.includes(right) ?? false;
}

export const ROLES: { value: Role; label: string; means: string }[] = [
  { value: 'reader', label: 'reader', means: 'sees stacks and fetches documents' },
  { value: 'inspector', label: 'inspector', means: 'looks, and marks pages to be captured again' },
  { value: 'technician', label: 'technician', means: 'does all work with pages' },
  { value: 'administrator', label: 'administrator', means: 'does all work, looks after people and stations' },
];

export const peopleQuery = queryOptions({
  queryKey: ['people'],
  queryFn: ({ signal }) => get<Person[]>('/api/v1/people', signal),
});
export const recordQuery = queryOptions({
  queryKey: ['record'],
  queryFn: ({ signal }) => get<RecordLine[]>('/api/v1/record', signal),
});
export const tokensQuery = queryOptions({
  queryKey: ['tokens'],
  queryFn: ({ signal }) => get<Token[]>('/api/v1/tokens', signal),
});
export const binQuery = queryOptions({
  queryKey: ['bin'],
  queryFn: ({ signal }) => get<Bin>('/api/v1/bin', signal),
});
export const languagesQuery = queryOptions({
  queryKey: ['languages'],
  queryFn: ({ signal }) => get<string[]>('/api/v1/languages', signal),
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
      patch<Person>(`/api/v1/people/${id}`, what),
    onSettled: fresh,
  });
  const endSessions = useMutation({
    mutationFn: (id: number) => remove<void>(`/api/v1/people/${id}/sessions`),
    onSuccess: () => notify('Signed out everywhere.'),
    onSettled: fresh,
  });
  const invite = useMutation({
    mutationFn: (role: Role) => post<Invitation>('/api/v1/invitations', { role }),
    onSettled: fresh,
  });
  return { change, endSessions, invite };
}

export function useAccount() {
  const client = useQueryClient();
  const password = useMutation({
    mutationFn: (change: { old: string; new: string }) => put<void>('/api/v1/session/password', change),
    onSuccess: () => {
      notify('The password is changed, and every other session has ended.');
      return client.invalidateQueries({ queryKey: sessionQuery.queryKey });
    },
  });
  const endAll = useMutation({
    mutationFn: () => remove<void>('/api/v1/session/all'),
    onSuccess: () => client.invalidateQueries({ queryKey: sessionQuery.queryKey }),
  });
  const fresh = () => client.invalidateQueries({ queryKey: ['tokens'] });
  const make = useMutation({
    mutationFn: (token: { name: string; role: Role; days: number }) => post<Token>('/api/v1/tokens', token),
    onSettled: fresh,
  });
  const withdraw = useMutation({ mutationFn: (id: number) => remove<void>(`/api/v1/tokens/${id}`), onSettled: fresh });
  return { password, endAll, make, withdraw };
}

export function useAccept() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (who: { secret: string; user: string; password: string }) =>
      keepToken(await post<Session>('/api/v1/invitations/accept', who)),
    onSuccess: (session) => client.setQueryData(sessionQuery.queryKey, session),
  });
}

export function useBin() {
  const client = useQueryClient();
  const fresh = () => client.invalidateQueries();
  const deleteDocument = useMutation({
    mutationFn: (id: number) => remove<void>(`/api/v1/documents/${id}`),
    onSettled: fresh,
  });
  const restore = useMutation({
    mutationFn: ({ kind, id }: { kind: 'stacks' | 'documents'; id: number }) =>
      post<void>(`/api/v1/bin/${kind}/${id}/restore`, {}),
    onSettled: fresh,
  });
  const restorePages = useMutation({
    mutationFn: async ({ stack, pages }: { stack: number; pages: number[] }) => {
      const { change: seen } = await get<{ change: number }>(`/api/v1/stacks/${stack}`);
      return post(`/api/v1/stacks/${stack}/changes`, { seen, doing: { do: 'restore', pages } });
    },
    onSettled: fresh,
  });
  return { deleteDocument, restore, restorePages };
}

/** Throws a stack into the bin; `gone` is called when it is there, whatever view is shown by then. */
export function useDeleteStack(gone: () => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => remove<void>(`/api/v1/stacks/${id}`),
    onSuccess: () => {
      gone();
      client.invalidateQueries({ queryKey: ['stacks'] });
      client.invalidateQueries({ queryKey: ['bin'] });
    },
  });
}
