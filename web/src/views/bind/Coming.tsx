import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import type { Binding } from '@/api/types';
import type { Coming } from '@/engine/coming';
import { ForeEdge } from '@/ui/ForeEdge';
import { Clipped } from '@/ui/Tip';
import { bytes, counted } from '@/words/figures';

export type ComingListProps = {
  documents: readonly Coming[];
  title: (index: number) => string;
  binding: Binding;
  /** Which of them is in hand. */
  at: number;
  onChoose: (page: number) => void;
};

const ROW = 64;

/** The documents that the pages will make; one is chosen by its name. Only those in view are drawn: there may be thousands. */
export function ComingList({ documents, title, binding, at, onChoose }: ComingListProps) {
  const scroll = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: documents.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 4,
  });
  const { each } = binding.forecast;
  /** How large each will be; none is told while the forecast is of other documents, just before a new one comes. */
  const sizes = each.length === documents.length ? each : [];
  useEffect(() => rows.scrollToIndex(at, { align: 'auto' }), [at, rows]);
  return (
    <div ref={scroll} className="-mx-2 max-h-64 shrink-0 overflow-y-auto">
      <ul aria-label="Documents to come" className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const pages = documents[index];
          const first = pages?.[0];
          if (!pages || !first) return null;
          const described = Object.keys(binding.documents[first.id]?.described ?? {}).length > 0;
          const size = sizes[index];
          return (
            <li key={first.id} className="absolute inset-x-0 h-16" style={{ top: start }}>
              <button
                type="button"
                aria-current={index === at}
                onClick={() => onChoose(first.id)}
                className="flex h-full w-full items-center gap-3 rounded-md px-2 text-left hover:bg-hover aria-[current=true]:bg-hover"
              >
                <span aria-hidden="true" className="block h-12 w-10 shrink-0 bg-surround p-1">
                  <ForeEdge lines={pages} className="h-full w-full" />
                </span>
                <span className="flex min-w-0 flex-1 flex-col">
                  <Clipped text={title(index)} className="font-semibold" />
                  <span className="flex justify-between gap-2 text-small text-soft">
                    <span>
                      {counted(pages.length, 'page')}
                      {described && ', described'}
                    </span>
                    {size !== undefined && <span className="font-mono">{bytes(size)}</span>}
                  </span>
                </span>
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
