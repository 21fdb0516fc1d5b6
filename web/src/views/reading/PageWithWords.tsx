import { useRef, useState } from 'react';
import type { Box, FoundPlace, PageRow, PageText } from '@/api/types';
import { chain, inverse, type Matrix, mapped, shift, stretch } from '@/engine/geometry/projective';
import type { Size } from '@/engine/geometry/turned';
import { shadeOf, wordAt } from '@/engine/reading/words';
import { type Close, closeOf, viewOf } from '@/engine/zoom/kept';
import { fitting, type View } from '@/engine/zoom/view';
import { useDrag } from '@/hooks/useDrag';
import { useSize } from '@/hooks/useSize';
import { Empty } from '@/ui/States';
import { Pane } from '@/ui/zoom/Pane';

export type PageWithWordsProps = {
  page: PageRow;
  text: PageText | undefined;
  /** The line in hand, and the word in it. */
  line: Box | undefined;
  word: Box | undefined;
  found: readonly FoundPlace[];
  /** Where the order of the text is in hand: the blocks in it. */
  order: readonly number[] | undefined;
  /** Whether a drag marks an area. */
  marking: boolean;
  onArea: (box: Box) => void;
  close: Close | undefined;
  onClose: (close: Close | undefined) => void;
  onWord: (box: Box) => void;
};

/** Pixels of the screen that a press may move and still be one. */
const STILL_PX = 4;

/** The page with its words where they stand: how doubtful each is, the line in hand under a ruler, what was found. */
export function PageWithWords(props: PageWithWordsProps) {
  const { page, text, line, word, found, order, marking, onArea, close, onClose, onWord } = props;
  const [frame, pane] = useSize<HTMLDivElement>();
  const pressed = useRef<readonly [number, number]>([0, 0]);
  const size = (page.clean_px ?? [1, 1]) as Size;
  const whole: View = { x: size[0] / 2, y: size[1] / 2, scale: fitting(size, pane) };
  const view = close ? viewOf(close, size) : whole;
  const toScreen: Matrix = chain(shift(-view.x, -view.y), stretch(view.scale), shift(pane[0] / 2, pane[1] / 2));
  const placeOf = (event: { clientX: number; clientY: number; currentTarget: Element }) => {
    const { left, top } = event.currentTarget.getBoundingClientRect();
    return mapped(inverse(toScreen), [event.clientX - left, event.clientY - top]);
  };
  const [area, setArea] = useState<Box>();
  const drag = useDrag<readonly [number, number]>({
    onGrasp: placeOf,
    onDrag: ([x, y], event) => setArea(boxOf([x, y], placeOf(event), size)),
    onRelease: ([x, y], event) => {
      const box = boxOf([x, y], placeOf(event), size);
      setArea(undefined);
      if (box[2] - box[0] >= LEAST_AREA && box[3] - box[1] >= LEAST_AREA) onArea(box);
    },
    onCancel: () => setArea(undefined),
  });
  const choose = (event: React.MouseEvent) => {
    const [x, y] = pressed.current;
    if (!text || Math.hypot(event.clientX - x, event.clientY - y) > STILL_PX) return;
    const hit = wordAt(text, placeOf(event));
    if (hit) onWord(hit.box);
  };
  return (
    // What the pointer does here the keyboard does in the queue: arrows go from word to word.
    // biome-ignore lint/a11y/noStaticElementInteractions: see above
    // biome-ignore lint/a11y/useKeyWithClickEvents: see above
    <div
      ref={frame}
      data-testid="reading-page"
      className="on-surround relative flex min-h-[40vh] min-w-0 flex-1 bg-surround lg:min-h-0"
      onPointerDownCapture={(event) => {
        pressed.current = [event.clientX, event.clientY];
      }}
      onClick={choose}
    >
      {page.clean ? (
        <Pane
          label={`Page ${page.number} with its words`}
          size={pane}
          view={view}
          onView={(next) => onClose(closeOf(next, size))}
          onDoubleClick={() => onClose(close ? undefined : closeOf({ ...view, scale: 1 }, size))}
          toScreen={toScreen}
          layers={[
            {
              picture: { address: `/iiif/render/${page.clean}`, size },
              toScreen,
              label: `Page ${page.number}, corrected`,
            },
          ]}
        >
          <svg aria-hidden="true" className="pointer-events-none absolute inset-0 size-full">
            {text?.lines.flatMap(({ words }) =>
              words.map((one) => {
                const shade = shadeOf(one);
                if (shade === 'none') return null;
                const [x1, y] = mapped(toScreen, [one.box[0], one.box[3]]);
                const [x2] = mapped(toScreen, [one.box[2], one.box[3]]);
                return (
                  <line
                    key={one.box.join()}
                    x1={x1}
                    x2={x2}
                    y1={y + 1.5}
                    y2={y + 1.5}
                    className="stroke-mark"
                    strokeWidth={shade === 'much' ? 2.5 : 1.5}
                    strokeDasharray={shade === 'much' ? undefined : '2 2'}
                  />
                );
              }),
            )}
            {found.map((one) => (
              <Frame key={`found ${one.box.join()}`} box={one.box} toScreen={toScreen} kind="found" />
            ))}
            {line && <Frame box={[0, line[1] - 6, size[0], line[3] + 6]} toScreen={toScreen} kind="ruler" />}
            {word && <Frame box={word} toScreen={toScreen} kind="word" />}
            {text?.blocks.map(
              (block) =>
                block.kind === 'not read' && (
                  <Frame key={`out ${block.box.join()}`} box={block.box} toScreen={toScreen} kind="out" />
                ),
            )}
            {order?.map((block, place) => {
              const box = text?.blocks[block]?.box;
              return box && <Numbered key={block} box={box} toScreen={toScreen} number={place + 1} />;
            })}
            {area && <Frame box={area} toScreen={toScreen} kind="out" />}
          </svg>
        </Pane>
      ) : (
        <Empty title="Not ready to be shown yet">It is being rendered.</Empty>
      )}
      {marking && <div {...drag} data-testid="marking" className="absolute inset-0 cursor-crosshair touch-none" />}
    </div>
  );
}

/** An area smaller than that on a side is a slip of the hand. */
const LEAST_AREA = 8;

/** The box between two places, on the page. */
function boxOf([x0, y0]: readonly number[], [x1, y1]: readonly number[], [width, height]: Size): Box {
  const within = (value: number, most: number) => Math.round(Math.max(0, Math.min(most, value)));
  const [a, b, c, d] = [x0 ?? 0, x1 ?? 0, y0 ?? 0, y1 ?? 0];
  return [
    within(Math.min(a, b), width),
    within(Math.min(c, d), height),
    within(Math.max(a, b), width),
    within(Math.max(c, d), height),
  ];
}

/** A block with its place in the order of the text. */
function Numbered({ box, toScreen, number }: { box: Box; toScreen: Matrix; number: number }) {
  const [x, y] = mapped(toScreen, [box[0], box[1]]);
  return (
    <g>
      <Frame box={box} toScreen={toScreen} kind="block" />
      <rect x={x} y={y} width={24} height={20} className="fill-mark" />
      <text x={x + 12} y={y + 15} textAnchor="middle" className="fill-paper font-mono text-small">
        {number}
      </text>
    </g>
  );
}

const KINDS = {
  ruler: 'fill-none stroke-mark [stroke-width:2px]',
  word: 'fill-mark/15 stroke-mark [stroke-width:1px]',
  out: 'fill-lid/35 stroke-lid [stroke-width:1.5px] [stroke-dasharray:6_4]',
  block: 'fill-none stroke-mark [stroke-width:1.5px]',
  found: 'fill-review/25 stroke-review [stroke-width:1.5px]',
};

function Frame({ box, toScreen, kind }: { box: Box; toScreen: Matrix; kind: keyof typeof KINDS }) {
  const [x, y] = mapped(toScreen, [box[0], box[1]]);
  const [right, bottom] = mapped(toScreen, [box[2], box[3]]);
  return <rect x={x} y={y} width={Math.max(1, right - x)} height={Math.max(1, bottom - y)} className={KINDS[kind]} />;
}
