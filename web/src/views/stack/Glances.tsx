import type { PageRow } from '@/api/types';

/** The image as captured with the outline of what is kept of it; of a page held aside as blank with what may stand on it. */
export function Outlined({ page }: { page: PageRow }) {
  const [width, height] = page.original_px ?? [1, 1];
  if (!page.original) return <span className="min-h-0 flex-1" />;
  const line = Math.max(width, height) / 120;
  return (
    <span className="relative flex min-h-0 w-full flex-1 items-center justify-center">
      <svg viewBox={`0 0 ${width} ${height}`} className="max-h-full max-w-full" aria-hidden="true">
        <image href={`/thumbs/measure/${page.original}.webp`} width={width} height={height} />
        {page.traces ? (
          <rect
            x={page.traces[0]}
            y={page.traces[1]}
            width={page.traces[2]}
            height={page.traces[3]}
            className="fill-none stroke-mark"
            strokeWidth={line}
          />
        ) : (
          page.outline && (
            <polygon
              points={page.outline.map((corner) => corner.join()).join(' ')}
              className="fill-none stroke-mark"
              strokeWidth={line}
            />
          )
        )}
      </svg>
    </span>
  );
}

/** So much of a page's height, above and below, is where page numbers stand. */
const MARGIN = 0.14;

/** The strips of a page in which its number stands, and the number as it was read. */
export function Numbered({ page }: { page: PageRow }) {
  const [width, height] = page.clean_px ?? [1, 1];
  const high = Math.round(height * MARGIN);
  const strip = (top: number) => `/iiif/render/${page.clean}/0,${top},${width},${high}/!420,120/0/default.jpg`;
  return (
    <span className="flex min-h-0 w-full flex-1 flex-col justify-center gap-1.5">
      {page.clean && <img src={strip(0)} alt="" draggable={false} loading="lazy" className="w-full" />}
      <span className="text-center font-mono text-title">{page.printed}</span>
      {page.clean && <img src={strip(height - high)} alt="" draggable={false} loading="lazy" className="w-full" />}
    </span>
  );
}
