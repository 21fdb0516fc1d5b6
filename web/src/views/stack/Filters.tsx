import type { PageRow } from '../../api/types';
import { Choice } from '../../parts/Choice';

export type Filter = 'all' | 'review' | 'aside' | 'failed';

const TESTS: Record<Filter, (page: PageRow) => boolean> = {
  all: () => true,
  review: (page) => page.state === 'ready' && page.verdict === 'review',
  aside: (page) => page.state === 'aside',
  failed: (page) => page.state === 'failed',
};
const LABELS: Record<Filter, string> = { all: 'All', review: 'To review', aside: 'Aside', failed: 'Failed' };
const ORDER: Filter[] = ['all', 'review', 'aside', 'failed'];

export function filtered(pages: PageRow[], filter: Filter): PageRow[] {
  return filter === 'all' ? pages : pages.filter(TESTS[filter]);
}

/** Which pages are shown, with how many there are of each. */
export function Filters({
  pages,
  value,
  onChange,
}: {
  pages: PageRow[];
  value: Filter;
  onChange: (filter: Filter) => void;
}) {
  return (
    <div className="flex h-12 shrink-0 items-center px-4">
      <Choice
        label="Which pages"
        value={value}
        onChange={onChange}
        options={ORDER.map((filter) => ({
          value: filter,
          label: (
            <>
              {LABELS[filter]} <span className="font-mono">{filtered(pages, filter).length}</span>
            </>
          ),
        }))}
      />
    </div>
  );
}
