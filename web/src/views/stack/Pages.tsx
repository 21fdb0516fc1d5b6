import { Link } from 'wouter';
import { Button } from '@/ui/Button';
import { Empty, Loading } from '@/ui/States';
import { type Filter, Filters, type Showing } from './Filters';
import { PageGrid, type PageGridProps } from './PageGrid';

export type PagesProps = Omit<PageGridProps, 'size' | 'layout' | 'firstAlone' | 'pages'> & {
  /** Every page of the stack, once they are known, and those that the filter lets through. */
  all: PageGridProps['pages'] | undefined;
  shown: PageGridProps['pages'];
  filter: Filter;
  onFilter: (filter: Filter) => void;
  showing: Showing;
  onShowing: (showing: Showing) => void;
  /** Where pages can be captured. */
  intake: string;
};

/** All pages of a stack as small images, with what chooses among them above. */
export function Pages({ all, shown, filter, onFilter, showing, onShowing, intake, ...grid }: PagesProps) {
  if (!all)
    return (
      <div className="grid grid-cols-4 gap-4 p-4">
        {[0, 1, 2, 3, 4, 5, 6, 7].map((place) => (
          <Loading key={place} label="Loading pages" className="h-[220px] opacity-40" />
        ))}
      </div>
    );
  if (all.length === 0)
    return (
      <Empty title="No pages yet">
        <p className="mb-4">Files that are being taken in appear here one by one.</p>
        <Button asChild className="text-ink">
          <Link href={intake}>Capture from a station</Link>
        </Button>
      </Empty>
    );
  return (
    <>
      <Filters pages={all} value={filter} onChange={onFilter} showing={showing} onShowing={onShowing} />
      <PageGrid
        {...grid}
        pages={shown}
        size={showing.size}
        layout={filter === 'all' ? showing.layout : 'pages'}
        firstAlone={showing.firstAlone}
      />
    </>
  );
}
