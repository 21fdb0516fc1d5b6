import type { Fault } from '@/api/types';

type Pictured = { original: string | null; original_px: readonly number[] | null };
const WIDE = 220;
const HIGH = 132;

/** The page as captured, small, with a frame around each spot. */
export function Spotted({ page, faults, small }: { page: Pictured; faults: readonly Fault[]; small?: boolean }) {
  const [width = 0, height = 0] = page.original_px ?? [];
  if (!page.original || !width || !height) return null;
  return (
    <span className={`relative flex shrink-0 items-center ${small ? 'h-14' : 'h-[132px]'}`}>
      <img src={`/thumbs/measure/${page.original}.webp`} alt="" className="max-h-full" />
      {faults.map(
        ({ check, spot }) =>
          spot && (
            <span
              key={check}
              aria-hidden="true"
              className="absolute border-2 border-accent shadow-[0_0_0_1px_var(--color-paper)]"
              style={{
                left: `${(100 * spot[0]) / width}%`,
                top: `${(100 * spot[1]) / height}%`,
                width: `${(100 * spot[2]) / width}%`,
                height: `${(100 * spot[3]) / height}%`,
              }}
            />
          ),
      )}
    </span>
  );
}

/** The middle of a spot at one pixel to one pixel: what the check has seen. */
export function Spot({
  page,
  fault,
}: {
  page: Pictured;
  fault: { message: string; spot?: Fault['spot'] | undefined };
}) {
  const [width = 0, height = 0] = page.original_px ?? [];
  if (!page.original || !fault.spot || !width || !height) return null;
  const [left, top, wide, high] = fault.spot;
  const w = Math.min(WIDE, width);
  const h = Math.min(HIGH, height);
  const x = Math.round(Math.max(0, Math.min(width - w, left + wide / 2 - w / 2)));
  const y = Math.round(Math.max(0, Math.min(height - h, top + high / 2 - h / 2)));
  return (
    <img
      src={`/iiif/measure/${page.original}/${x},${y},${w},${h}/max/0/default.jpg`}
      alt={`The spot at full size: ${fault.message}`}
      width={w}
      height={h}
      className="shrink-0 rounded-sm"
    />
  );
}
