import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { differenceQuery } from '@/api/bench';
import { inverse, type Matrix, mapped, type Quad } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { placesCommands } from '@/engine/keys/look';
import { type Lie, pageToScreen, type View } from '@/engine/zoom/view';
import { useCommands } from '@/hooks/useCommands';
import { BLANK } from '@/ui/zoom/blank';
import { Pane } from '@/ui/zoom/Pane';
import { differenceWords } from '@/words/difference';
import { Lines, pathOf } from './tools/lines';

export type DifferencePaneProps = {
  page: { id: number; number: number; clean: string | null };
  /** Of the corrected page that is saved: what is still being set is not compared. */
  lie: Lie;
  pending: boolean;
  pane: Size;
  view: View;
  onView: (view: View) => void;
  /** From the image as captured to the screen. */
  toScreen: Matrix;
};

type Box = readonly [number, number, number, number];

/** Screen pixels that a place takes at least when it is gone to. */
const LOOKED_AT = 160;
const AROUND_PX = 4;

/** The corrected page, pale, with what went and what came on it, and a frame around each place. */
export function DifferencePane({ page, lie, pending, pane, view, onView, toScreen }: DifferencePaneProps) {
  const { data, error } = useQuery({ ...differenceQuery(page.id, page.clean ?? ''), enabled: page.clean !== null });
  const [at, setAt] = useState(-1);
  const onPage = pageToScreen(view, pane, lie);
  const places = data ? [...data.went.map(went), ...data.came.map(came)] : [];

  const step = (by: 1 | -1) => {
    const next = at < 0 && by < 0 ? places.length - 1 : (at + by + places.length) % places.length;
    const place = places[next];
    if (!place) return;
    const [left, top, right, bottom] = place.box;
    const [x, y] = mapped(inverse(toScreen), mapped(onPage, [(left + right) / 2, (top + bottom) / 2]));
    const large = Math.max(right - left, bottom - top, 1);
    const [wide, high] = pane;
    const scale = Math.min(1, Math.min(wide, high) / (2 * large), Math.max(view.scale, LOOKED_AT / large));
    setAt(next);
    onView({ x, y, scale });
  };
  useCommands(placesCommands({ enabled: places.length > 0, step }));

  const said =
    page.clean === null || pending
      ? 'The corrected page is being made'
      : error
        ? error.message
        : data
          ? differenceWords(data.went.length, data.came.length)
          : 'Being compared …';
  const picture = data ? { data: data.picture, size: lie.size } : { data: BLANK, size: lie.size };
  return (
    <Pane
      label="Difference"
      title={`Difference · ${said}`}
      size={pane}
      view={view}
      onView={onView}
      toScreen={toScreen}
      layers={[{ picture, toScreen: onPage, label: `Page ${page.number}: what went and what came` }]}
    >
      <Lines pane={pane}>
        {places.map((place, index) => (
          <path
            key={`${place.kind} ${place.box.join(' ')}`}
            data-testid={place.kind}
            d={pathOf(corners(place.box), onPage)}
            className="fill-none stroke-mark"
            strokeWidth={index === at ? 3 : 1.5}
            strokeDasharray={place.kind === 'came' ? '5 4' : undefined}
          />
        ))}
      </Lines>
      {places.length > 0 && (
        <p className="pointer-events-none absolute bottom-0 left-0 flex items-center gap-3 bg-panel px-2 py-0.5 text-small text-ink">
          <Key dashes={undefined} word="went" />
          <Key dashes="5 4" word="came" />
          <span className="text-soft">[ and ] go from place to place</span>
        </p>
      )}
    </Pane>
  );
}

function Key({ dashes, word }: { dashes: string | undefined; word: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <svg aria-hidden="true" width="18" height="12">
        <rect
          x="1"
          y="1"
          width="16"
          height="10"
          className="fill-none stroke-mark"
          strokeWidth="1.5"
          strokeDasharray={dashes}
        />
      </svg>
      {word}
    </span>
  );
}

const went = (box: Box) => ({ kind: 'went', box }) as const;
const came = (box: Box) => ({ kind: 'came', box }) as const;

/** A little around a box, so that its frame does not lie over what it shows. */
const corners = ([left, top, right, bottom]: Box): Quad => [
  [left - AROUND_PX, top - AROUND_PX],
  [right + AROUND_PX, top - AROUND_PX],
  [right + AROUND_PX, bottom + AROUND_PX],
  [left - AROUND_PX, bottom + AROUND_PX],
];
