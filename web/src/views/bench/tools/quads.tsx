import { useEffect, useRef } from 'react';
import { type Handle as Corner, dragged, HANDLES, handleName, isPage, placeOf } from '@/engine/geometry/corners';
import type { Matrix, Quad } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { Handle } from '@/ui/zoom/Handle';
import { Lines, Outline, pathOf } from './lines';

type Tool = { toScreen: Matrix; pane: Size };

export type CornersToolProps = Tool & {
  quad: Quad;
  captured: Size;
  onChange: (quad: Quad) => void;
};

/** The page's outline with a handle at each corner and each side. */
export function CornersTool({ toScreen, pane, quad, captured, onChange }: CornersToolProps) {
  const drag = useDragged(quad, captured, onChange);
  return (
    <>
      <Lines pane={pane}>
        <Outline quad={quad} toScreen={toScreen} className="fill-none stroke-mark" width={2} />
      </Lines>
      {HANDLES.map((handle) => (
        <Handle
          key={handle}
          label={handleName(handle)}
          at={placeOf(quad, handle)}
          toScreen={toScreen}
          round={handle > 3}
          first={handle === 0}
          onDrag={(dx, dy) => drag(handle, dx, dy)}
        />
      ))}
    </>
  );
}

/** Hands move more often than the screen is drawn: every movement goes on from the one before it. */
function useDragged(quad: Quad, captured: Size, onChange: (quad: Quad) => void) {
  const latest = useRef(quad);
  useEffect(() => {
    latest.current = quad;
  });
  return (handle: Corner, dx: number, dy: number) => {
    const next = dragged(latest.current, handle, dx, dy, captured);
    if (!isPage(next)) return;
    latest.current = next;
    onChange(next);
  };
}

export type BordersToolProps = Tool & {
  page: Quad;
  plain: Quad;
  kept: readonly Quad[];
  captured: Size;
  onChange: (plain: Quad) => void;
  onPutBack: (side: number) => void;
};

/** What is cleared, shaded; a handle on each side where plain paper begins. Delete puts that side's border back. */
export function BordersTool({ toScreen, pane, page, plain, kept, captured, ...on }: BordersToolProps) {
  const drag = useDragged(plain, captured, on.onChange);
  const [outer, inner] = [page, plain].map((quad) => pathOf(quad, toScreen));
  return (
    <>
      <Lines pane={pane}>
        <path d={`${outer} ${inner}`} fillRule="evenodd" className="fill-mark/35" />
        <path d={inner} className="fill-none stroke-mark" strokeWidth={2} />
        {kept.map((quad) => (
          <Outline
            key={quad.join()}
            quad={quad}
            toScreen={toScreen}
            className="fill-paper/40 stroke-paper"
            width={1.5}
          />
        ))}
      </Lines>
      {([4, 5, 6, 7] as const).map((handle) => (
        <Handle
          key={handle}
          label={`Border on the ${handleName(handle)}`}
          at={placeOf(plain, handle)}
          toScreen={toScreen}
          round
          first={handle === 4}
          onDrag={(dx, dy) => drag(handle, dx, dy)}
          onKey={(event) => {
            if (event.key !== 'Delete' && event.key !== 'Backspace') return false;
            on.onPutBack(handle - 4);
            return true;
          }}
        />
      ))}
    </>
  );
}
