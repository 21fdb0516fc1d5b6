import type { ReactNode } from 'react';
import type { PageRow } from '@/api/types';
import type { Layout, Size } from '@/engine/grid/layout';
import { Button } from '@/ui/Button';
import { Check } from '@/ui/Check';
import { Choice } from '@/ui/Choice';
import { Pop } from '@/ui/Pop';
import { Chevron } from '@/ui/signs';
import { count } from '@/words/figures';

/** Which pages are shown; the last ones are sheets on which one look judges many. */
export type Filter = 'all' | 'review' | 'aside' | 'failed' | 'again' | Glance;
export type Glance = 'turned' | 'cropped' | 'numbered' | 'covers';

const TESTS: Record<Filter, (page: PageRow) => boolean> = {
  all: () => true,
  review: (page) => page.state === 'ready' && page.verdict === 'review',
  aside: (page) => page.state === 'aside',
  failed: (page) => page.state === 'failed' || page.trouble !== null,
  again: (page) => page.rescan !== '',
  turned: (page) => page.state !== 'failed' && page.turn !== null && page.turn !== 0,
  cropped: isCropped,
  numbered: (page) => page.printed !== '',
  covers: () => true,
};
const LABELS: Record<Filter, string> = {
  all: 'All',
  review: 'To review',
  aside: 'Aside',
  failed: 'Failed',
  again: 'To recapture',
  turned: 'Turned pages',
  cropped: 'Cropped pages',
  numbered: 'Page numbers',
  covers: 'First pages',
};
const GLANCES: Glance[] = ['turned', 'cropped', 'numbered', 'covers'];
const ORDER: Filter[] = ['all', 'review', 'aside', 'failed', 'again'];

export function filtered(
  pages: readonly PageRow[],
  filter: Filter,
  starts: ReadonlySet<number> = NO_STARTS,
): readonly PageRow[] {
  if (filter === 'all') return pages;
  if (filter === 'covers') return pages.filter(({ id, number }) => number === 1 || starts.has(id));
  return pages.filter(TESTS[filter]);
}

/** Whether more than a hair of the image was cut away. */
function isCropped({ outline, original_px: size, state }: PageRow): boolean {
  if (!outline || !size || state === 'failed') return false;
  const [width, height] = size;
  const inset = outline.map(([x, y]) => Math.min(x / width, 1 - x / width, y / height, 1 - y / height));
  return Math.max(...inset) > CROPPED || new Set(outline.map(([x]) => Math.round((8 * x) / width))).size < 2;
}

const CROPPED = 0.006;
const NO_STARTS: ReadonlySet<number> = new Set();

/** How the grid shows pages; kept in the browser from one day to the next. */
export type Showing = { size: Size; layout: Layout; firstAlone: boolean };
export const SHOWING: Showing = { size: 'medium', layout: 'pages', firstAlone: true };

export type FiltersProps = {
  pages: readonly PageRow[];
  value: Filter;
  onChange: (filter: Filter) => void;
  /** Pages with which a document begins. */
  starts: ReadonlySet<number>;
  showing: Showing;
  onShowing: (showing: Showing) => void;
  /** Which image of each page. */
  children: ReactNode;
};

/** Which pages are shown, with how many there are of each, and how. */
export function Filters({ pages, value, onChange, starts, showing, onShowing, children }: FiltersProps) {
  const glance = GLANCES.find((one) => one === value);
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
      <Pop
        label="Sheets"
        className="flex w-56 flex-col gap-1"
        trigger={
          <Button size="small" className="min-h-8" pressed={glance !== undefined}>
            Sheets
            <Chevron />
          </Button>
        }
      >
        {GLANCES.map((one) => (
          <Button
            key={one}
            kind="quiet"
            size="small"
            spread="between"
            aria-pressed={one === value}
            onClick={() => onChange(one === value ? 'all' : one)}
          >
            {LABELS[one]} <span className="font-mono">{count(filtered(pages, one, starts).length)}</span>
          </Button>
        ))}
      </Pop>
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
