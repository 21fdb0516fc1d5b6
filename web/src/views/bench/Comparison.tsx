import { useEffect, useState } from 'react';
import type { Preview } from '@/api/bench';
import type { PageRow } from '@/api/types';
import type { Compare, Tool } from '@/engine/bench/toolNames';
import {
  asCaptured,
  closer,
  type Lie,
  overlaid,
  pagePixels,
  pageToScreen,
  type View,
  wholeImage,
  wholePage,
} from '@/engine/bench/view';
import { inverse, mapped, type Quad } from '@/engine/geometry/projective';
import { endsOf, type SplitLine } from '@/engine/geometry/splitLine';
import type { Point, Size } from '@/engine/geometry/turned';
import type { Version } from '@/engine/version';
import { useCommands } from '@/hooks/useCommands';
import { useSize } from '@/hooks/useSize';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { figure, size as sizeWords } from '@/words/figures';
import { Loupe } from './Loupe';
import type { Picture } from './PageLayer';
import { Pane } from './Pane';
import { type Region, RegionsOverlay } from './RegionsOverlay';
import { SplitTool } from './SplitTool';
import { BordersTool, CornersTool, LevelTool, Lines, Outline, Stroke } from './tools';

export type ComparisonProps = {
  page: PageRow;
  lie: Lie;
  version: Version;
  compare: Compare;
  onCompare: (compare: Compare) => void;
  /** What lies on the page besides paper; undefined where it is not to be shown. */
  regions: readonly Region[] | undefined;
  onRegions: () => void;
  loupe: boolean;
  onLoupe: (loupe: boolean) => void;
  tool: Tool;
  onTool: (tool: Tool) => void;
  preview: Preview | undefined;
  trouble: string | undefined;
  saving: boolean;
  onLongest: (px: number) => void;
  corners: Quad;
  pageQuad: Quad;
  plain: Quad;
  kept: readonly Quad[];
  line: SplitLine;
  /** Whether the page is half of an image that was split along the line. */
  half: boolean;
  onLine: (line: SplitLine) => void;
  onSplit: () => void;
  onUnsplit: () => void;
  onCorners: (quad: Quad) => void;
  onPlain: (quad: Quad) => void;
  onPutBack: (side: number) => void;
  onTilt: (degrees: number) => void;
  upright: (point: Point) => Point;
};

const HINTS: Record<Tool, string> = {
  look: '',
  level: 'Draw along a text line, or down a rule. ← → tilt by 0.05°, with Shift by 0.5°.',
  corners: 'Drag corners and sides. Tab goes from one to the next, arrow keys move by a pixel, with Shift by ten.',
  split: 'Drag the line, or one of its ends. ← → move it by a pixel, with Shift by ten.',
  borders: 'What is shaded is cleared. Drag its inner sides; Delete puts the border of a side back.',
};
const DIVIDER_STEP = 0.02;

/** Original and corrected page, compared in one of three ways, with the tools on the original. */
export function Comparison(props: ComparisonProps) {
  const { page, lie, compare, tool, preview } = props;
  const [frame, [wide, high]] = useSize<HTMLDivElement>();
  const pane: Size = compare === 'beside' ? [(wide - 1) / 2, high] : [wide, high];
  const [looked, setView] = useState<View>();
  const [point, setPoint] = useState<{ at: Point; original: boolean }>();
  const [curtain, setCurtain] = useState(0.5);
  const fitted = compare === 'beside' ? wholeImage(lie, pane) : wholePage(lie, pane);
  const view = looked ?? fitted;
  const original: Picture = { address: `/iiif/measure/${page.original}`, size: lie.captured };
  const corrected: Picture =
    preview || !page.clean
      ? { data: preview?.image ?? BLANK, size: lie.size }
      : { address: `/iiif/render/${page.clean}`, size: (page.clean_px ?? lie.size) as Size };
  const onPage = pageToScreen(view, pane, lie);
  const over = overlaid(view, pane, lie);
  const captured = asCaptured(view, pane, lie);

  // Two sizes are enough: every other one would be decoded and reduced again.
  const longest = view.scale * Math.max(...lie.captured) * window.devicePixelRatio > 1100 ? 1600 : 1000;
  const { onLongest } = props;
  useEffect(() => onLongest(longest), [longest, onLongest]);

  const zoom = (factor: number) => setView(closer(view, factor, compare === 'beside' ? captured : over, middle(pane)));
  const trueSize = () => setView({ ...view, scale: 1 / window.devicePixelRatio });
  useCommands([
    { name: 'whole', label: 'Whole page', key: '0', perform: () => setView(undefined) },
    { name: 'true', label: 'One pixel to one pixel', key: '1', perform: trueSize },
    { name: 'in', label: 'Closer', key: '+', perform: () => zoom(1.5) },
    { name: 'out', label: 'Further away', key: '-', shown: '−', perform: () => zoom(1 / 1.5) },
    {
      name: 'curtain left',
      label: 'Curtain to the left',
      key: '[',
      enabled: compare === 'curtain',
      perform: () => setCurtain(Math.max(0, curtain - DIVIDER_STEP)),
    },
    {
      name: 'curtain right',
      label: 'Curtain to the right',
      key: ']',
      enabled: compare === 'curtain',
      perform: () => setCurtain(Math.min(1, curtain + DIVIDER_STEP)),
    },
  ]);

  const hold = (inOriginal: boolean) => (at: Point | undefined) =>
    setPoint(at && props.loupe ? { at, original: inOriginal } : undefined);
  const shared = { size: pane, view, onView: setView };
  const originalLayer = { picture: original, toScreen: captured, label: `Page ${page.number} as captured` };
  const overLayer = { picture: original, toScreen: over, label: `Page ${page.number} as captured` };
  const pageLayer = { picture: corrected, toScreen: onPage, label: `Page ${page.number} corrected` };
  const state = preview ? 'Corrected · preview' : page.clean ? 'Corrected' : 'Corrected · being made';
  const spot = point
    ? mapped(inverse(point.original && compare === 'beside' ? captured : over), point.at)
    : ([view.x, view.y] as const);
  const tools = { toScreen: captured, pane };

  return (
    <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround">
      <div className="flex h-12 shrink-0 items-center gap-3 border-b border-hairline bg-ground px-3 text-ink">
        <Choice
          label="Compare"
          value={compare}
          onChange={props.onCompare}
          options={[
            { value: 'beside', label: 'Side by side' },
            { value: 'curtain', label: 'Curtain' },
            { value: 'one', label: 'One' },
          ]}
        />
        <Choice
          label="Tool"
          value={tool}
          onChange={props.onTool}
          options={[
            { value: 'look', label: 'Look' },
            { value: 'level', label: 'Level' },
            { value: 'corners', label: 'Corners' },
            { value: 'borders', label: 'Borders' },
            { value: 'split', label: 'Split' },
          ]}
        />
        <Button aria-pressed={!!props.regions} onClick={props.onRegions} kind={props.regions ? 'main' : 'plain'}>
          Regions
        </Button>
        <Button
          aria-pressed={props.loupe}
          onClick={() => props.onLoupe(!props.loupe)}
          kind={props.loupe ? 'main' : 'plain'}
        >
          Loupe
        </Button>
      </div>
      <div ref={frame} data-testid="bench" className="relative flex min-h-0 flex-1">
        {compare === 'beside' ? (
          <>
            <Pane
              {...shared}
              label="Original"
              title="Original"
              toScreen={captured}
              layers={[originalLayer]}
              onPoint={hold(true)}
            >
              {props.regions && <RegionsOverlay regions={props.regions} toScreen={captured} pane={pane} />}
              <Lines pane={pane}>
                {tool !== 'corners' && (
                  <Outline quad={props.corners} toScreen={captured} className="fill-none stroke-accent" width={1} />
                )}
                {props.half && tool !== 'split' && (
                  <Stroke line={endsOf(props.line, lie.captured, lie.turn)} toScreen={captured} />
                )}
              </Lines>
              {tool === 'corners' && (
                <CornersTool {...tools} quad={props.corners} captured={lie.captured} onChange={props.onCorners} />
              )}
              {tool === 'borders' && (
                <BordersTool
                  {...tools}
                  page={props.pageQuad}
                  plain={props.plain}
                  kept={props.kept}
                  captured={lie.captured}
                  onChange={props.onPlain}
                  onPutBack={props.onPutBack}
                />
              )}
              {tool === 'split' && (
                <SplitTool
                  {...tools}
                  line={props.line}
                  captured={lie.captured}
                  turn={lie.turn}
                  onChange={props.onLine}
                  onSplit={props.onSplit}
                />
              )}
              {tool === 'level' && <LevelTool {...tools} upright={props.upright} onTilt={props.onTilt} />}
            </Pane>
            <div className="w-px shrink-0 bg-hairline" />
            <Pane
              {...shared}
              label="Corrected"
              title={state}
              toScreen={over}
              layers={[pageLayer]}
              onPoint={hold(false)}
            />
          </>
        ) : compare === 'curtain' ? (
          <Pane
            {...shared}
            label="Original and corrected"
            title={`Original | ${state}`}
            toScreen={over}
            onPoint={hold(false)}
            layers={[overLayer, { ...pageLayer, clipLeft: Math.round(curtain * pane[0]) }]}
          >
            {props.regions && <RegionsOverlay regions={props.regions} toScreen={over} pane={pane} />}
            <Divider share={curtain} onShare={setCurtain} />
          </Pane>
        ) : (
          <Pane
            {...shared}
            label={props.version === 'clean' ? 'Corrected' : 'Original'}
            title={props.version === 'clean' ? state : 'Original, laid as the corrected page'}
            toScreen={over}
            onPoint={hold(false)}
            layers={[props.version === 'clean' ? pageLayer : overLayer]}
          >
            {props.regions && <RegionsOverlay regions={props.regions} toScreen={over} pane={pane} />}
          </Pane>
        )}
        {props.loupe && wide > 0 && <Loupe spot={spot} lie={lie} original={original} corrected={corrected} />}
      </div>
      <div className="flex h-11 shrink-0 items-center gap-3 border-t border-hairline bg-ground px-3 text-ink">
        <span className="font-mono">{page.number}</span>
        <span className="min-w-0 truncate" title={page.source}>
          {HINTS[tool] || page.source}
        </span>
        <span role="status" className="ml-auto shrink-0 text-soft">
          {props.trouble ?? (props.saving ? 'Saving …' : '')}
        </span>
        {tool === 'split' && (
          <Button kind={props.half ? 'plain' : 'main'} onClick={props.half ? props.onUnsplit : props.onSplit}>
            {props.half ? 'One page again' : 'Split here'}
          </Button>
        )}
        <span className="shrink-0 font-mono text-soft">{sizeWords(lie.size)}</span>
        <span className="w-14 shrink-0 text-right font-mono" data-testid="zoom">
          {figure((100 * view.scale * window.devicePixelRatio) / Math.min(1, pagePixels(lie)), 0, '%')}
        </span>
        <Button onClick={() => setView(undefined)}>Whole</Button>
        <Button onClick={trueSize}>1:1</Button>
      </div>
    </main>
  );
}

const middle = ([wide, high]: Size): Point => [wide / 2, high / 2];
/** Nothing yet: one grey pixel. */
const BLANK = 'data:image/gif;base64,R0lGODlhAQABAIAAAHt7eno6OiH5BAAAAAAALAAAAAABAAEAAAICRAEAOw==';

function Divider({ share, onShare }: { share: number; onShare: (share: number) => void }) {
  return (
    <button
      type="button"
      role="slider"
      aria-label="Curtain"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
      className="absolute top-0 h-full w-5 -translate-x-1/2 cursor-ew-resize touch-none"
      style={{ left: `${share * 100}%` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        const box = event.currentTarget.parentElement?.getBoundingClientRect();
        if (event.currentTarget.hasPointerCapture(event.pointerId) && box)
          onShare(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
      }}
      onKeyDown={(event) => {
        const step = { ArrowLeft: -DIVIDER_STEP, ArrowRight: DIVIDER_STEP }[event.key];
        if (!step) return;
        event.preventDefault();
        event.stopPropagation();
        onShare(Math.max(0, Math.min(1, share + step * (event.shiftKey ? 5 : 1))));
      }}
    >
      <span aria-hidden="true" className="mx-auto block h-full w-0.5 bg-accent shadow-[0_0_0_1px_var(--color-paper)]" />
    </button>
  );
}
