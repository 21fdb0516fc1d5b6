import type { PageRow } from '@/api/types';
import { stateWords } from '@/ui/Mark';

const SEEN = 3;

/** What came last, along the fore-edge's side, large enough to see whether it is sharp. */
export function LastPictures({ pages, onPage }: { pages: readonly PageRow[]; onPage: (id: number) => void }) {
  // Pages in the order in which they came: their numbers of changes tell nothing, their ids do.
  const last = [...pages].sort((a, b) => b.id - a.id).slice(0, SEEN);
  if (last.length === 0) return null;
  return (
    <ul
      aria-label="What came last"
      className="flex shrink-0 gap-3 overflow-hidden p-4 pb-0 text-surround-ink sm:w-52 sm:flex-col sm:pr-0 sm:pb-4"
    >
      {last.map((page, at) => (
        <li key={page.id} className={at ? 'hidden sm:block' : ''}>
          <button type="button" onClick={() => onPage(page.id)} className="flex w-full flex-col gap-1 text-left">
            {page.original ? (
              <img
                src={
                  at === 0
                    ? `/iiif/measure/${page.original}/full/!400,520/0/default.jpg`
                    : `/thumbs/measure/${page.original}.webp`
                }
                alt=""
                className={`w-auto max-w-full self-start ${at === 0 ? 'max-h-72' : 'max-h-28'}`}
              />
            ) : (
              <span className="flex h-24 w-20 items-center justify-center border border-surround-ink text-small">
                {stateWords(page)}
              </span>
            )}
            <span className="font-mono text-small">
              {page.number} {at === 0 ? 'came last' : ''} {page.rescan ? '· recapture' : ''}
            </span>
          </button>
        </li>
      ))}
    </ul>
  );
}
