import type { ReactNode } from 'react';
import { Link } from 'wouter';
import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Empty, Loading } from '@/ui/States';
import { type Filter, Filters, type Showing } from './Filters';
import { PageGrid, type PageGridProps } from './PageGrid';

export type PagesProps = Omit<PageGridProps, 'size' | 'layout' | 'firstAlone' | 'glance'> & {
  /** Every page of the stack, once they are known. */
  all: readonly PageRow[] | undefined;
  filter: Filter;
  onFilter: (filter: Filter) => void;
  showing: Showing;
  onShowing: (showing: Showing) => void;
  /** Which image of each page. */
  children: ReactNode;
  /** Where pages can be captured, for those who may. */
  intake: string | undefined;
};

/** All pages of a stack as small images, with what chooses among them above. */
export function Pages({ all, filter, onFilter, showing, onShowing, intake, children, ...grid }: PagesProps) {
  if (!all)
    return (
      <div className="grid grid-cols-4 gap-4 p-4">
        {[0, 1, 2, 3, 4, 5, 6, 7].map((place) => (
          <Loading key={place} label="Loading pages" className="h-56 opacity-40" />
        ))}
      </div>
    );
  if (all.length === 0)
    return (
      <div className="min-h-0 flex-1 bg-ground">
        <Empty title="No pages yet">
          <p>Pages appear here as they are captured, or as files come in.</p>
          {intake && (
            <Button kind="main" asChild shortcut="n">
              <Link href={intake}>Intake</Link>
            </Button>
          )}
        </Empty>
      </div>
    );
  return (
    <>
      <Filters
        pages={all}
        value={filter}
        onChange={onFilter}
        starts={grid.starts}
        showing={showing}
        onShowing={onShowing}
      >
        {children}
      </Filters>
      <PageGrid
        {...grid}
        glance={filter}
        size={showing.size}
        layout={filter === 'all' ? showing.layout : 'pages'}
        firstAlone={showing.firstAlone}
      />
    </>
  );
}
