import type { ReactNode } from 'react';
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
/** The column in which the whole page stands, and how much of its height is left for the pages beside it. */
const SMALL = 150;
const BESIDE = 104;
const GAP = 12;

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
            <div className="flex shrink-0 flex-col justify-between" style={{ width: SMALL }}>
              <Small page={page} spot={finding.spot} />
              <Beside page={page} pages={pages} />
            </div>
            <Part
              label="As captured"
              step="measure"
              of={page.original}
              size={page.original_px}
              spot={finding.spot}
              turn={page.turn ?? 0}
              room={room}
            />
            <Part
              label="Corrected"
              step="render"
              of={page.aside ? null : page.clean}
              size={page.clean_px}
              spot={finding.clean_spot}
              turn={0}
              room={room}
            />
          </>
        )}
      </div>
    </div>
  );
}

/** The whole page as captured, upright, with the spot marked. */
function Small({ page, spot }: { page: PageRow; spot: InspectFinding['spot'] }) {
  const [width, height] = page.original_px ?? [1, 1];
  if (!page.original) return <div />;
  const turn = page.turn ?? 0;
  return (
    <div className="self-center">
      <Upright size={fitted([width, height], turn, [SMALL, HIGH - BESIDE - GAP])} turn={turn}>
        <img src={`/thumbs/measure/${page.original}.webp`} alt="The page as captured" className="size-full" />
        {spot && <SpotFrame box={spot} within={[0, 0, width, height]} />}
      </Upright>
    </div>
  );
}

/** The pages before and behind the one looked at. */
function Beside({ page, pages }: { page: PageRow; pages: readonly PageRow[] }) {
  const at = pages.findIndex(({ id }) => id === page.id);
  return (
    <ul aria-label="Pages beside it" className="flex justify-between" style={{ height: BESIDE }}>
      {[pages[at - 1], pages[at + 1]].map((one, place) => (
        <li
          key={one?.id ?? `none ${place}`}
          className={`flex w-1/2 flex-col justify-end gap-1 ${place ? 'items-end' : 'items-start'}`}
        >
          {one && (
            <>
              <Whole page={one} here={false} most="max-h-20 max-w-16" />
              <span className="font-mono text-small">{one.number}</span>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

type PartProps = {
  label: string;
  step: 'measure' | 'render';
  of: string | null;
  size: readonly number[] | null;
  spot: InspectFinding['spot'];
  /** Clockwise degrees by which it is shown, so that it stands as the corrected page does. */
  turn: number;
  room: readonly [number, number];
};

/** Part of a picture at one pixel to one, or all of it where there is no spot. */
function Part({ label, step, of, size, spot, turn, room }: PartProps) {
  const [width, height] = size ?? [0, 0];
  if (!of || !width || !height)
    return (
      <p className="flex flex-1 items-center justify-center border border-on-surround/30 text-small">
        {label}: there is no picture
      </p>
    );
  const lies: [number, number] = turn % 180 ? [room[1], room[0]] : [room[0], room[1]];
  const shown: Rect = spot ? around(spot, [width, height], lies) : [0, 0, width, height];
  const address = spot
    ? `/iiif/${step}/${of}/${shown.join()}/max/0/default.jpg`
    : `/iiif/${step}/${of}/full/!${Math.round(room[0] * 2)},${HIGH * 2}/0/default.jpg`;
  return (
    <figure className="relative flex min-w-0 flex-1 items-start justify-center overflow-hidden">
      <div className="relative">
        <Upright size={spot ? [shown[2], shown[3]] : fitted([width, height], turn, room)} turn={turn}>
          <img
            key={address}
            src={address}
            alt={`${label}${spot ? ', the spot at full size' : ''}`}
            className="size-full"
          />
          {spot && <SpotFrame box={spot} within={shown} />}
        </Upright>
        <figcaption className="absolute top-0 left-0 bg-panel px-2 py-0.5 text-small text-ink">
          {label}
          {spot ? ', 1:1' : ''}
          {turn ? `, turned ${turn}°` : ''}
        </figcaption>
      </div>
    </figure>
  );
}

/** How large something is shown that is turned by quarters and has to fit: its size before it is turned. */
function fitted(size: readonly [number, number] | readonly number[], turn: number, room: readonly number[]): Size {
  const [width = 1, height = 1] = size;
  const [wide = 1, high = 1] = turn % 180 ? [room[1], room[0]] : room;
  const scale = Math.min(wide / width, high / height);
  return [width * scale, height * scale];
}

type Size = readonly [number, number];

/** Something of a known size, turned by quarters; it takes the room that it has when turned. */
function Upright({ size: [width, height], turn, children }: { size: Size; turn: number; children: ReactNode }) {
  const [wide, high] = turn % 180 ? [height, width] : [width, height];
  return (
    <div className="relative bg-paper" style={{ width: wide, height: high }}>
      <div
        className="absolute top-1/2 left-1/2"
        style={{ width, height, transform: `translate(-50%, -50%) rotate(${turn}deg)` }}
      >
        {children}
      </div>
    </div>
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
          <Whole page={one} here={one.id === page.id} most="max-h-[300px] min-w-0" />
          <span className={`font-mono text-small ${one.id === page.id ? 'font-semibold' : ''}`}>{one.number}</span>
        </li>
      ))}
    </ul>
  );
}

function Whole({ page, here, most }: { page: PageRow; here: boolean; most: string }) {
  const clean = page.aside ? null : page.clean;
  const [step, of, size] = clean ? ['render', clean, page.clean_px] : ['measure', page.original, page.original_px];
  if (!of) return <span className="h-40 w-28 bg-panel/20" />;
  const [width, height] = size ?? [1, 1];
  return (
    <img
      src={`/iiif/${step}/${of}/full/!600,600/0/default.jpg`}
      alt={`Page ${page.number}`}
      style={{ aspectRatio: `${width} / ${height}` }}
      className={`${most} object-contain ${here ? 'outline-3 outline-offset-2 outline-mark' : 'opacity-80'}`}
    />
  );
}
