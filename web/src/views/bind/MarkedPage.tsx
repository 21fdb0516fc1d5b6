import { useState } from 'react';
import type { PageMark, PageRow } from '@/api/types';
import { chain, inverse, type Matrix, mapped, shift, stretch } from '@/engine/geometry/projective';
import type { Point, Size } from '@/engine/geometry/turned';
import { amid, between, type MarkBox, newName } from '@/engine/marks';
import { closer, fitting, seen, type View } from '@/engine/zoom/view';
import { useCommands } from '@/hooks/useCommands';
import { useDrag } from '@/hooks/useDrag';
import { useSize } from '@/hooks/useSize';
import { Loading } from '@/ui/States';
import { Pane } from '@/ui/zoom/Pane';
import { MarkOnPage } from './MarkOnPage';

export type MarkedPageProps = {
  page: PageRow;
  /** Tells one look of it from another: what is asked for of the copies. */
  look: string;
  marks: readonly PageMark[];
  /** What a drag puts on the page; the page is moved by it where there is none. */
  tool: PageMark['kind'] | undefined;
  out: boolean;
  may: boolean;
  onPut: (mark: PageMark) => void;
  onGone: (id: string) => void;
};

/** A page as it will be seen in an access copy, with what lies on it to be taken hold of. */
export function MarkedPage({ page, look, marks, tool, out, may, onPut, onGone }: MarkedPageProps) {
  const [frame, pane] = useSize<HTMLElement>();
  const [close, setClose] = useState<{ page: number; view: View }>();
  const [drawn, setDrawn] = useState<MarkBox>();
  const [fresh, setFresh] = useState<string>();
  const size = (page.clean_px ?? [1, 1]) as Size;
  const whole: View = { x: size[0] / 2, y: size[1] / 2, scale: fitting(size, pane) };
  const view = close?.page === page.id ? close.view : whole;
  const toScreen: Matrix = chain(shift(-view.x, -view.y), stretch(view.scale), shift(pane[0] / 2, pane[1] / 2));
  const placeOf = (event: { clientX: number; clientY: number; currentTarget: Element }): Point => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    const [x, y] = mapped(inverse(toScreen), [event.clientX - left, event.clientY - top]);
    return [x / size[0], y / size[1]];
  };
  const put = (box: MarkBox) => {
    if (!tool) return;
    const id = newName();
    setFresh(id);
    onPut({ id, kind: tool, box: [...box], text: '' });
  };
  const drag = useDrag<Point>({
    onGrasp: placeOf,
    onDrag: (from, event) => setDrawn(between(from, placeOf(event))),
    onRelease: (from, event) => {
      setDrawn(undefined);
      const box = between(from, placeOf(event));
      if (box) put(box);
    },
    onCancel: () => setDrawn(undefined),
  });
  const lookAt = (next: View | undefined) => setClose(next && { page: page.id, view: next });
  const zoom = (factor: number) => lookAt(closer(view, factor, toScreen, [pane[0] / 2, pane[1] / 2]));
  useCommands([
    { name: 'whole', label: 'Whole page', key: '0', subject: 'Look', perform: () => lookAt(undefined) },
    { name: 'in', label: 'Zoom in', key: '+', subject: 'Look', repeats: true, perform: () => zoom(1.5) },
    {
      name: 'out',
      label: 'Zoom out',
      key: '-',
      shown: '−',
      subject: 'Look',
      repeats: true,
      perform: () => zoom(1 / 1.5),
    },
    {
      name: 'place',
      label: 'Place it in the middle',
      key: 'Enter',
      subject: 'Mark',
      enabled: may && !!tool,
      perform: () => {
        const [left, top, wide, high] = seen(toScreen, pane, size) ?? [0, 0, ...size];
        put(amid([left / size[0], top / size[1], (left + wide) / size[0], (top + high) / size[1]]));
      },
    },
  ]);
  return (
    <section
      ref={frame}
      aria-label="The page as it is seen in an access copy"
      className="relative flex min-h-0 min-w-0 flex-1"
    >
      {page.clean ? (
        <Pane
          label={`Page ${page.number} of the access copy`}
          size={pane}
          view={view}
          onView={lookAt}
          onDoubleClick={() => lookAt(close ? undefined : { ...view, scale: 1 })}
          toScreen={toScreen}
          layers={[
            // Seen at once, and until the copy's own picture is there.
            {
              picture: { address: `/iiif/render/${page.clean}`, size },
              toScreen,
              label: `Page ${page.number}, corrected`,
            },
            {
              picture: { data: `/api/v1/pages/${page.id}/copy?of=${page.clean}&as=${look}`, size },
              toScreen,
              label: `Page ${page.number} as it is seen in the access copy`,
            },
          ]}
        >
          {tool && <div {...drag} data-testid="drawing" className="absolute inset-0 cursor-crosshair touch-none" />}
          {marks.map((mark, index) => (
            <MarkOnPage
              key={mark.id}
              mark={mark}
              number={index + 1}
              size={size}
              toScreen={toScreen}
              may={may}
              first={mark.id === fresh}
              onPut={onPut}
              onGone={() => onGone(mark.id)}
            />
          ))}
          {drawn && <Drawn box={drawn} size={size} toScreen={toScreen} />}
        </Pane>
      ) : (
        <Loading label="The page is being corrected" className="m-auto h-40 w-60" />
      )}
      {out && (
        <p className="pointer-events-none absolute top-3 left-1/2 -translate-x-1/2 bg-panel px-3 py-1 font-semibold text-ink">
          Left out of access copies
        </p>
      )}
    </section>
  );
}

function Drawn({ box, size, toScreen }: { box: MarkBox; size: Size; toScreen: Matrix }) {
  const [left, top] = mapped(toScreen, [box[0] * size[0], box[1] * size[1]]);
  const [right, bottom] = mapped(toScreen, [box[2] * size[0], box[3] * size[1]]);
  return (
    <div
      className="pointer-events-none absolute border-2 border-mark outline-1 outline-paper"
      style={{ left, top, width: right - left, height: bottom - top }}
    />
  );
}
