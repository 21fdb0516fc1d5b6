import type { PageRow, Pages, PagesNews } from '@/api/types';

/** Known pages with what is new laid over them, in stack order. Unchanged rows stay the same objects. */
export function merged(known: Pages | undefined, { pages, order, ...news }: PagesNews): Pages {
  const byId = new Map<number, PageRow | PagesNews['pages'][number]>(known?.pages.map((page) => [page.id, page]));
  for (const page of pages) byId.set(page.id, page);
  const ids = order ?? known?.pages.map(({ id }) => id) ?? [];
  if (known && !order && pages.length === 0) return { ...news, pages: known.pages };
  return {
    ...news,
    pages: ids.flatMap((id, index) => {
      const row = byId.get(id);
      if (!row) return [];
      return 'number' in row && row.number === index + 1 ? row : { ...row, number: index + 1 };
    }),
  };
}
