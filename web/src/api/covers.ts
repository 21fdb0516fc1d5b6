import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, told } from './client';
import type { PageRow } from './types';

/** What was filed by the cover sheets among a stack's pages; not asked where there is none. */
export function coverSheetsQuery(stack: number, pages: readonly PageRow[]) {
  const sheets = pages.filter(({ aside }) => aside === 'cover sheet');
  return queryOptions({
    // Asked again when one of them has changed.
    queryKey: ['cover sheets', stack, sheets.map(({ id, change }) => `${id}.${change}`).join(' ')],
    queryFn: ({ signal }) =>
      told(api.GET('/api/v1/stacks/{stack_id}/cover-sheets', { params: { path: { stack_id: stack } }, signal })),
    enabled: sheets.length > 0,
    placeholderData: keepPreviousData,
    // That the stack whose sheet it is was reopened, or deleted, is no change here.
    refetchInterval: 30_000,
  });
}
