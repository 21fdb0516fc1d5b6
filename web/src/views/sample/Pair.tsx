import { useState } from 'react';
import type { PageRow } from '@/api/types';
import { chain, type Matrix, shift, stretch } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { lookCommands } from '@/engine/keys/look';
import { type Close, closeOf, viewOf } from '@/engine/zoom/kept';
import { closer, fitting, panned, type View } from '@/engine/zoom/view';
import { useCommands } from '@/hooks/useCommands';
import { useSize } from '@/hooks/useSize';
import { Pane } from '@/ui/zoom/Pane';

/** A page corrected and as captured, side by side, looked at equally closely and at the same place. */
export function Pair({ page }: { page: PageRow }) {
  const [frame, [wide, high]] = useSize<HTMLDivElement>();
  const [close, setClose] = useState<Close>();
  const pane: Size = [Math.max(0, (wide - 8) / 2), high];
  const size = (page.clean_px ?? [1, 1]) as Size;
  const view = close ? viewOf(close, size) : whole(size, pane);
  const toScreen = onScreen(view, pane);
  const look = (next: View) => setClose(closeOf(next, size));
  useCommands(
    lookCommands({
      whole: () => setClose(undefined),
      trueSize: () => look({ ...view, scale: 1 / window.devicePixelRatio }),
      zoom: (factor) => look(closer(view, factor, toScreen, [pane[0] / 2, pane[1] / 2])),
      pan: (across, down) => look(panned(view, toScreen, pane, -across * pane[0], -down * pane[1])),
    }),
  );
  const sides = [
    { label: 'Corrected', address: page.clean && `/iiif/render/${page.clean}`, px: page.clean_px },
    { label: 'As captured', address: page.original && `/iiif/measure/${page.original}`, px: page.original_px },
  ];
  return (
    <div ref={frame} className="on-surround flex min-h-80 min-w-0 flex-1 gap-2 bg-surround lg:min-h-0">
      {sides.map(({ label, address, px }) => {
        const of = (px ?? [1, 1]) as Size;
        const own = close ? viewOf(close, of) : whole(of, pane);
        return address ? (
          <Pane
            key={label}
            label={`Page ${page.number}, ${label.toLowerCase()}`}
            title={label}
            size={pane}
            view={own}
            onView={(next) => setClose(closeOf(next, of))}
            onDoubleClick={() =>
              close ? setClose(undefined) : setClose(closeOf({ ...own, scale: 1 / window.devicePixelRatio }, of))
            }
            toScreen={onScreen(own, pane)}
            layers={[
              { picture: { address, size: of }, toScreen: onScreen(own, pane), label: `Page ${page.number}, ${label}` },
            ]}
          />
        ) : (
          <p key={label} className="m-auto flex-1 text-center text-surround-ink">
            {label}: there is no picture yet
          </p>
        );
      })}
    </div>
  );
}

const whole = (size: Size, pane: Size): View => ({ x: size[0] / 2, y: size[1] / 2, scale: fitting(size, pane) });

const onScreen = (view: View, pane: Size): Matrix =>
  chain(shift(-view.x, -view.y), stretch(view.scale), shift(pane[0] / 2, pane[1] / 2));
