import { type ReactNode, useEffect, useState } from 'react';
import { asField } from '@/engine/bench/corrections';
import type { Compare, Tool } from '@/engine/bench/toolNames';
import { inverse, mapped } from '@/engine/geometry/projective';
import { endsOf } from '@/engine/geometry/splitLine';
import type { Point, Size } from '@/engine/geometry/turned';
import { curtainCommands, lookCommands } from '@/engine/keys/look';
import type { Version } from '@/engine/version';
import { type Close, closeOf, viewOf } from '@/engine/zoom/kept';
import {
  asCaptured,
  closer,
  overlaid,
  pagePixels,
  pageToScreen,
  panned,
  type View,
  wholeImage,
  wholePage,
} from '@/engine/zoom/view';
import type { BenchModel } from '@/hooks/useBench';
import { useCommands } from '@/hooks/useCommands';
import { useSize } from '@/hooks/useSize';
import { BLANK } from '@/ui/zoom/blank';
import type { Picture } from '@/ui/zoom/PageLayer';
import { Pane } from '@/ui/zoom/Pane';
import { Curtain } from './Curtain';
import { DifferencePane } from './DifferencePane';
import { Foot } from './Foot';
import { Loupe } from './Loupe';
import { RegionsOverlay } from './RegionsOverlay';
import { ToolRow } from './ToolRow';
import { LevelTool } from './tools/LevelTool';
import { Lines, Outline, Stroke } from './tools/lines';
import { BordersTool, CornersTool } from './tools/quads';
import { SplitTool } from './tools/SplitTool';

export type ComparisonProps = {
  bench: BenchModel;
  version: Version;
  compare: Compare;
  onCompare: (compare: Compare) => void;
  /** Whether what lies on the page besides paper is shown. */
  regions: boolean;
  onRegions: (on: boolean) => void;
  loupe: boolean;
  onLoupe: (on: boolean) => void;
  tool: Tool;
  onTool: (tool: Tool) => void;
  onSplit: () => void;
  close: Close | undefined;
  onClose: (close: Close | undefined) => void;
};

/** Two sizes of a preview are enough: every other one would be decoded and reduced again. */
const SIZES = { small: 1000, large: 1600, from: 1100 };

/** Original and corrected page, compared in one of four ways, with the tools on the original. */
export function Comparison(props: ComparisonProps) {
  const { bench, compare, tool, close } = props;
  const { page, lie, preview } = bench;
  const [frame, [wide, high]] = useSize<HTMLDivElement>();
  const pane: Size = compare === 'beside' ? [(wide - 1) / 2, high] : [wide, high];
  const [point, setPoint] = useState<{ at: Point; original: boolean }>();
  const [curtain, setCurtain] = useState(0.5);
  const fitted = compare === 'beside' ? wholeImage(lie, pane) : wholePage(lie, pane);
  const view = close ? viewOf(close, lie.captured) : fitted;
  const look = (next: View) => props.onClose(closeOf(next, lie.captured));
  const original: Picture = { address: `/iiif/measure/${page.original}`, size: lie.captured };
  const corrected: Picture =
    preview || !page.clean
      ? { data: preview?.picture ?? BLANK, size: lie.size }
      : { address: `/iiif/render/${page.clean}`, size: page.clean_px ?? lie.size };
  const onPage = pageToScreen(view, pane, lie);
  const over = overlaid(view, pane, lie);
  const captured = asCaptured(view, pane, lie);
  const main = compare === 'beside' ? captured : over;

  const longest =
    view.scale * Math.max(...lie.captured) * window.devicePixelRatio > SIZES.from ? SIZES.large : SIZES.small;
  const { setLongest } = bench;
  useEffect(() => setLongest(longest), [longest, setLongest]);

  const whole = () => props.onClose(undefined);
  const trueSize = () => look({ ...view, scale: 1 / window.devicePixelRatio });
  useCommands([
    ...lookCommands({
      whole,
      trueSize,
      zoom: (factor) => look(closer(view, factor, main, [pane[0] / 2, pane[1] / 2])),
      pan: (across, down) => look(panned(view, main, pane, -across * pane[0], -down * pane[1])),
    }),
    ...curtainCommands({
      enabled: compare === 'curtain',
      moveBy: (share) => setCurtain(Math.max(0, Math.min(1, curtain + share))),
    }),
  ]);

  const hold = (inOriginal: boolean) => (at: Point | undefined) =>
    setPoint(at && props.loupe ? { at, original: inOriginal } : undefined);
  const shared = { size: pane, view, onView: look };
  const originalLayer = { picture: original, toScreen: captured, label: `Page ${page.number} as captured` };
  const overLayer = { picture: original, toScreen: over, label: `Page ${page.number} as captured` };
  const pageLayer = { picture: corrected, toScreen: onPage, label: `Page ${page.number} corrected` };
  const state = preview ? 'Corrected · preview' : page.clean ? 'Corrected' : 'Corrected · being rendered';
  const spot = point ? mapped(inverse(point.original ? main : over), point.at) : ([view.x, view.y] as const);
  const regions = props.regions && (
    <RegionsOverlay regions={bench.measured.regions ?? []} toScreen={main} pane={pane} />
  );

  return (
    <main className="on-surround flex min-h-[70vh] min-w-0 flex-1 flex-col bg-surround lg:min-h-0">
      <ToolRow {...props} />
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
              {regions}
              <OnOriginal bench={bench} tool={tool} toScreen={captured} pane={pane} onSplit={props.onSplit} />
            </Pane>
            <div className="w-px shrink-0 bg-surround-ink" />
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
            {regions}
            <Curtain share={curtain} onShare={setCurtain} />
          </Pane>
        ) : compare === 'difference' ? (
          <DifferencePane
            key={page.id}
            page={page}
            lie={lie}
            pending={bench.pending}
            pane={pane}
            view={view}
            onView={look}
            toScreen={over}
          />
        ) : (
          <Pane
            {...shared}
            label={props.version === 'clean' ? 'Corrected' : 'Original'}
            title={props.version === 'clean' ? state : 'Original, laid over the corrected page'}
            toScreen={over}
            onPoint={hold(false)}
            layers={[props.version === 'clean' ? pageLayer : overLayer]}
          >
            {regions}
          </Pane>
        )}
        {props.loupe && wide > 0 && <Loupe spot={spot} lie={lie} original={original} corrected={corrected} />}
      </div>
      <Foot
        bench={bench}
        tool={tool}
        onSplit={props.onSplit}
        percent={(100 * view.scale * window.devicePixelRatio) / Math.min(1, pagePixels(lie))}
        onWhole={whole}
        onTrueSize={trueSize}
      />
    </main>
  );
}

type OnOriginalProps = Pick<ComparisonProps, 'bench' | 'tool' | 'onSplit'> & {
  toScreen: Parameters<typeof mapped>[0];
  pane: Size;
};

/** The page's outline, and the tool in hand. */
function OnOriginal({ bench, tool, toScreen, pane, onSplit }: OnOriginalProps): ReactNode {
  const { lie, corners, plain, line, half, measured, plan, set } = bench;
  const on = { toScreen, pane };
  return (
    <>
      <Lines pane={pane}>
        {tool !== 'corners' && (
          <Outline quad={corners} toScreen={toScreen} className="fill-none stroke-mark" width={1} />
        )}
        {half && tool !== 'split' && <Stroke line={endsOf(line, lie.captured, lie.turn)} toScreen={toScreen} />}
      </Lines>
      {tool === 'corners' && (
        <CornersTool {...on} quad={corners} captured={lie.captured} onChange={(quad) => set({ quad: asField(quad) })} />
      )}
      {tool === 'borders' && (
        <BordersTool
          {...on}
          page={measured.page_quad}
          plain={plain}
          kept={plan.protected ?? []}
          captured={lie.captured}
          onChange={(quad) => set({ plain: asField(quad) })}
          onPutBack={bench.keepBorder}
        />
      )}
      {tool === 'split' && (
        <SplitTool
          {...on}
          line={line}
          captured={lie.captured}
          turn={lie.turn}
          onChange={bench.moveLine}
          onSplit={onSplit}
        />
      )}
      {tool === 'level' && <LevelTool key={bench.page.id} {...on} upright={bench.upright} onTilt={bench.levelTo} />}
    </>
  );
}
