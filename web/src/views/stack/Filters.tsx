import type { PageRow } from '@/api/types';
import type { Layout, Size } from '@/engine/grid/layout';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';

export type Filter = 'all' | 'review' | 'aside' | 'failed' | 'again';

const TESTS: Record<Filter, (page: PageRow) => boolean> = {
  all: () => true,
  review: (page) => page.state === 'ready' && page.verdict === 'review',
  aside: (page) => page.state === 'aside',
  failed: (page) => page.state === 'failed' || page.trouble !== null,
  again: (page) => page.rescan !== '',
};
const LABELS: Record<Filter, string> = {
  all: 'All',
  review: 'To review',
  aside: 'Aside',
  failed: 'Failed',
  again: 'Again',
};
const ORDER: Filter[] = ['all', 'review', 'aside', 'failed', 'again'];

export function filtered(pages: PageRow[], filter: Filter): PageRow[] {
  return filter === 'all' ? pages : pages.filter(TESTS[filter]);
}

/** How the grid shows pages; kept in the browser from one day to the next. */
export type Showing = { size: Size; layout: Layout; firstAlone: boolean };
export const SHOWING: Showing = { size: 'medium', layout: 'pages', firstAlone: true };

export type FiltersProps = {
  pages: PageRow[];
  value: Filter;
  onChange: (filter: Filter) => void;
  showing: Showing;
  onShowing: (showing: Showing) => void;
};

/** Which pages are shown, with how many there are of each, and how. */
export function Filters({ pages, value, onChange, showing, onShowing }: FiltersProps) {
  return (
    <div className="flex h-12 shrink-0 items-center gap-2 px-4">
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
      <div className="ml-auto flex gap-2">
        {showing.layout === 'facing' && (
          <Button
            aria-pressed={showing.firstAlone}
            onClick={() => onShowing({ ...showing, firstAlone: !showing.firstAlone })}
            className="aria-pressed:bg-accent aria-pressed:text-on-accent"
          >
            First alone
          </Button>
        )}
        <Choice
          label="Side by side"
          value={showing.layout}
          onChange={(layout) => onShowing({ ...showing, layout })}
          options={[
            { value: 'pages', label: 'Pages' },
            { value: 'leaves', label: 'Leaves' },
            { value: 'facing', label: 'Facing' },
          ]}
        />
        <Choice
          label="Size"
          value={showing.size}
          onChange={(size) => onShowing({ ...showing, size })}
          options={[
            { value: 'small', label: 'S' },
            { value: 'medium', label: 'M' },
            { value: 'large', label: 'L' },
          ]}
        />
      </div>
    </div>
  );
}
