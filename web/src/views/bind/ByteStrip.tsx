import type { PageRow } from '@/api/types';
import { bytes } from '@/words/figures';

export type ByteStripProps = { pages: readonly PageRow[]; current: number | undefined; onGo: (page: number) => void };

/** Bytes page by page: dear pages stand out, and one press opens them. */
export function ByteStrip({ pages, current, onGo }: ByteStripProps) {
  const most = Math.max(1, ...pages.map((page) => page.bytes ?? 0));
  const dearest = pages.find((page) => page.bytes === most);
  const at = pages.findIndex((page) => page.id === current);
  return (
    <section aria-label="Bytes, page by page" className="flex flex-col gap-1 text-surround-ink">
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the arrow keys go from page to page in all of this view */}
      <svg
        viewBox={`0 0 ${Math.max(1, pages.length)} 40`}
        preserveAspectRatio="none"
        className="h-14 w-full cursor-pointer"
        role="img"
        aria-label={`Bytes of ${pages.length} pages, the most ${bytes(most)}`}
        onClick={(event) => {
          const { left, width } = event.currentTarget.getBoundingClientRect();
          const page = pages[Math.floor(((event.clientX - left) / width) * pages.length)];
          if (page) onGo(page.id);
        }}
      >
        {pages.map((page, index) => {
          const high = Math.max(1, (38 * (page.bytes ?? 0)) / most);
          return (
            <rect
              key={page.id}
              x={index + 0.06}
              y={40 - high}
              width={0.88}
              height={high}
              className={index === at ? 'fill-accent' : 'fill-panel'}
            />
          );
        })}
      </svg>
      <p className="flex justify-between gap-3 text-small">
        <span>Bytes, page by page</span>
        {dearest && (
          <button type="button" className="min-h-6 font-mono hover:underline" onClick={() => onGo(dearest.id)}>
            most: page {dearest.number}, {bytes(most)}
          </button>
        )}
      </p>
    </section>
  );
}
