import type { ReactNode } from 'react';
import type { PageRow } from '@/api/types';
import type { Layout, Size } from '@/engine/grid/layout';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Choice } from '@/ui/Choice';
import { Pop } from '@/ui/Pop';
import { Chevron } from '@/ui/signs';
import { count } from '@/words/figures';

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
  again: 'To recapture',
};
const ORDER: Filter[] = ['all', 'review', 'aside', 'failed', 'again'];

export function filtered(pages: readonly PageRow[], filter: Filter): readonly PageRow[] {
  return filter === 'all' ? pages : pages.filter(TESTS[filter]);
}

/** How the grid shows pages; kept in the browser from one day to the next. */
export type Showing = { size: Size; layout: Layout; firstAlone: boolean };
export const SHOWING: Showing = { size: 'medium', layout: 'pages', firstAlone: true };

export type FiltersProps = {
  pages: readonly PageRow[];
  value: Filter;
  onChange: (filter: Filter) => void;
  showing: Showing;
  onShowing: (showing: Showing) => void;
  /** Which image of each page. */
  children: ReactNode;
};

/** Which pages are shown, with how many there are of each, and how. */
export function Filters({ pages, value, onChange, showing, onShowing, children }: FiltersProps) {
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-2 border-b border-hairline bg-panel px-4 py-2">
      <Choice
        label="Which pages"
        value={value}
        onChange={onChange}
        options={ORDER.map((filter) => ({
          value: filter,
          label: (
            <>
              {LABELS[filter]} <span className="font-mono text-small">{count(filtered(pages, filter).length)}</span>
            </>
          ),
        }))}
      />
      <div className="ml-auto flex flex-wrap gap-2">
        {children}
        <Pop
          label="Layout"
          className="flex flex-col gap-3"
          trigger={
            <Button size="small" className="min-h-8">
              Layout
              <Chevron />
            </Button>
          }
        >
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
          {showing.layout === 'facing' && (
            <Check
              label="First page alone"
              value={showing.firstAlone}
              onChange={(firstAlone) => onShowing({ ...showing, firstAlone })}
            />
          )}
        </Pop>
      </div>
    </div>
  );
}
