import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { changed } from '@/engine/marks';
import { api, outlives, told } from './client';
import type { Binding, BindingChange, CopyAsked, ExportAsked } from './types';

/** How a stack's documents are to be made, and how large they are likely to be with so many pages ready; asked again while that
 * is being found out. */
export const bindingQuery = (stackId: number, ready: number) =>
  queryOptions({
    queryKey: ['binding', stackId, ready],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/binding', { params: { path: { stack_id: stackId } }, signal })),
    placeholderData: keepPreviousData,
    refetchInterval: ({ state }) => (state.data?.forecast.state === 'sampling' ? 1500 : false),
  });

/** Say something of it anew; what is shown follows at once, and the figures when they are there. One is said after the other, and
 * an answer that is older than what was said last is not shown: what is being typed is made of what is shown. */
export function useBinding(stackId: number, ready: number) {
  const client = useQueryClient();
  const { queryKey } = bindingQuery(stackId, ready);
  const mutationKey = ['binding', stackId];
  return useMutation({
    mutationKey,
    scope: { id: mutationKey.join(' ') },
    mutationFn: (body: BindingChange) =>
      told(
        api.PATCH('/api/v1/stacks/{stack_id}/binding', {
          params: { path: { stack_id: stackId } },
          body,
          keepalive: outlives(body),
        }),
      ),
    onMutate: async ({ documents, marks, left_out, ...rest }) => {
      await client.cancelQueries({ queryKey });
      const said = Object.fromEntries(Object.entries(rest).filter(([, value]) => value != null));
      client.setQueryData(queryKey, (before: Binding | undefined) =>
        before
          ? ({
              ...before,
              ...said,
              documents: { ...before.documents, ...documents },
              marks: { ...before.marks, ...marksAfter(before, marks) },
              left_out: outAfter(before, left_out),
            } as Binding)
          : before,
      );
    },
    onSuccess: (made) => {
      if (client.isMutating({ mutationKey }) === 1) client.setQueryData(queryKey, made);
    },
    // Figures that were asked for before this was said may come after it was, and would put back what it was before.
    onSettled: () => client.isMutating({ mutationKey }) === 1 && client.invalidateQueries({ queryKey: mutationKey }),
  });
}

function marksAfter({ marks }: Binding, change: BindingChange['marks']): Binding['marks'] {
  const pages = Object.entries(change ?? {});
  return Object.fromEntries(pages.map(([page, { put, gone }]) => [page, changed(marks[page] ?? [], put, gone)]));
}

function outAfter(before: Binding, change: BindingChange['left_out']): number[] {
  const said = Object.entries(change ?? {});
  const others = before.left_out.filter((page) => !said.some(([named]) => Number(named) === page));
  return [...others, ...said.flatMap(([page, out]) => (out ? [Number(page)] : []))];
}

/** Have access copies made: of one document to come, or of all. */
export function useCopies(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: CopyAsked) =>
      told(api.POST('/api/v1/stacks/{stack_id}/copies', { params: { path: { stack_id: stackId } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['documents', stackId] }),
  });
}

/** The forms that documents are given out in besides PDF. */
export const exportFormsQuery = queryOptions({
  queryKey: ['export forms'],
  queryFn: ({ signal }) => told(api.GET('/api/v1/export-forms', { signal })),
  staleTime: Number.POSITIVE_INFINITY,
});

/** Give out a document, chosen pages or all of a stack in another form. */
export function useExport(stackId: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: ExportAsked) =>
      told(api.POST('/api/v1/stacks/{stack_id}/exports', { params: { path: { stack_id: stackId } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['documents', stackId] }),
  });
}

/** What a page is made of as it is bound. */
export const partsQuery = (page: number, clean: string) =>
  queryOptions({
    queryKey: ['parts', page, clean],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/pages/{page_id}/parts', { params: { path: { page_id: page } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** A document with all that was checked of it. */
export const documentQuery = (id: number) =>
  queryOptions({
    queryKey: ['document', id],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/documents/{document_id}', { params: { path: { document_id: id } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
  });
