import type { InspectFinding, PageRow } from '@/api/types';
import { around, type Rect } from '@/engine/inspect/queue';
import { useSize } from '@/hooks/useSize';
import { SpotFrame } from '@/ui/SpotFrame';

export type EvidenceProps = {
  finding: InspectFinding;
  page: PageRow | undefined;
  pages: readonly PageRow[];
};

/** So high is the evidence, whatever is shown: nothing below it jumps. */
const HIGH = 340;

/** What a finding goes by: the spot at one pixel to one, as captured and corrected, and where on the page it is. */
export function Evidence({ finding, page, pages }: EvidenceProps) {
  const [field, [wide]] = useSize<HTMLDivElement>();
  const room: [number, number] = [Math.max(200, (wide - SMALL - 2 * GAP) / 2), HIGH];
  return (
    <div ref={field} className="on-surround shrink-0 bg-surround px-7 py-4">
      <div className="flex gap-3" style={{ height: HIGH }}>
        {!page ? (
          <p className="m-auto">This concerns the stack as a whole.</p>
        ) : finding.together ? (
          <Fellows page={page} pages={pages} />
        ) : (
          <>
            {finding.spot && <Small page={page} spot={finding.spot} />}
            <Part
              label="As captured"
              step="measure"
              of={page.original}
              size={page.original_px}
              spot={finding.spot}
              room={room}
            />
            <Part
              label="Corrected"
              step="render"
              of={page.aside ? null : page.clean}
              size={page.clean_px}
              spot={finding.clean_spot}
              room={room}
            />
          </>
        )}
      </div>
    </div>
  );
}

const SMALL = 150;
const GAP = 12;

/** The whole page as captured, with the spot marked. */
function Small({ page, spot }: { page: PageRow; spot: InspectFinding['spot'] }) {
  const [width, height] = page.original_px ?? [1, 1];
  if (!page.original) return <div style={{ width: SMALL }} />;
  return (
    <div className="flex shrink-0 items-start justify-center" style={{ width: SMALL }}>
      <div className="relative max-h-full" style={{ aspectRatio: `${width} / ${height}`, width: SMALL }}>
        <img
          src={`/thumbs/measure/${page.original}.webp`}
          alt="The page as captured"
          className="size-full object-contain"
        />
        {spot && <SpotFrame box={spot} within={[0, 0, width, height]} />}
      </div>
    </div>
  );
}

type PartProps = {
  label: string;
  step: 'measure' | 'render';
  of: string | null;
  size: readonly number[] | null;
  spot: InspectFinding['spot'];
  room: readonly [number, number];
};

/** Part of a picture at one pixel to one, or all of it where there is no spot. */
function Part({ label, step, of, size, spot, room }: PartProps) {
  const [width, height] = size ?? [0, 0];
  if (!of || !width || !height)
    return (
      <p className="flex flex-1 items-center justify-center border border-on-surround/30 text-small">
        {label}: there is no picture
      </p>
    );
  const shown: Rect = spot ? around(spot, [width, height], room) : [0, 0, width, height];
  const address = spot
    ? `/iiif/${step}/${of}/${shown.join()}/max/0/default.jpg`
    : `/iiif/${step}/${of}/full/!${Math.round(room[0] * 2)},${HIGH * 2}/0/default.jpg`;
  return (
    <figure className="relative flex min-w-0 flex-1 items-start justify-center overflow-hidden">
      <div
        className="relative max-h-full max-w-full bg-paper"
        style={spot ? { width: shown[2], height: shown[3] } : { aspectRatio: `${width} / ${height}`, height: HIGH }}
      >
        <img
          key={address}
          src={address}
          alt={`${label}${spot ? ', the spot at full size' : ''}`}
          className="size-full"
        />
        {spot && <SpotFrame box={spot} within={shown} />}
        <figcaption className="absolute top-0 left-0 bg-panel px-2 py-0.5 text-small text-ink">
          {label}
          {spot ? ', 1:1' : ''}
        </figcaption>
      </div>
    </figure>
  );
}

/** A page between its neighbours: what shows only among fellows. */
function Fellows({ page, pages }: { page: PageRow; pages: readonly PageRow[] }) {
  const at = pages.findIndex(({ id }) => id === page.id);
  const near = pages.slice(Math.max(0, at - 2), at + 3);
  return (
    <ul className="flex min-w-0 flex-1 items-end justify-center gap-4">
      {near.map((one) => (
        <li key={one.id} className="flex max-h-full min-w-0 flex-col items-center gap-1.5">
          <Whole page={one} here={one.id === page.id} />
          <span className={`font-mono text-small ${one.id === page.id ? 'font-semibold' : ''}`}>{one.number}</span>
        </li>
      ))}
    </ul>
  );
}

function Whole({ page, here }: { page: PageRow; here: boolean }) {
  const clean = page.aside ? null : page.clean;
  const [step, of, size] = clean ? ['render', clean, page.clean_px] : ['measure', page.original, page.original_px];
  if (!of) return <span className="h-40 w-28 bg-panel/20" />;
  const [width, height] = size ?? [1, 1];
  return (
    <img
      src={`/iiif/${step}/${of}/full/!600,600/0/default.jpg`}
      alt={`Page ${page.number}`}
      style={{ aspectRatio: `${width} / ${height}` }}
      className={`max-h-[300px] min-w-0 object-contain ${here ? 'outline-3 outline-offset-2 outline-mark' : 'opacity-80'}`}
    />
  );
}
