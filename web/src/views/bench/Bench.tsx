import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { type Correction, usePreview } from '@/api/bench';
import { pageQuery } from '@/api/queries';
import type { Doing, Page, PageRow } from '@/api/types';
import { asField, corrections, nothingOf } from '@/engine/bench/corrections';
import type { Compare, Tool } from '@/engine/bench/toolNames';
import type { Lie } from '@/engine/bench/view';
import { opened, reordered, rotated, type Side, tiltOf } from '@/engine/geometry/corners';
import type { Quad } from '@/engine/geometry/projective';
import { type Point, type Size, type Turn, turned } from '@/engine/geometry/turned';
import type { Version } from '@/engine/version';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { SidePanel } from '@/ui/SidePanel';
import { Empty, Failed, Loading } from '@/ui/States';
import { HistoryPanel } from '@/views/stack/arrange/HistoryPanel';
import { FailedPage } from '@/views/stack/FailedPage';
import { Comparison } from './Comparison';
import { CorrectPanel } from './CorrectPanel';
import { benchCommands } from './commands';
import { UseOn } from './UseOn';
import { useCorrection } from './useCorrection';
import { useSplitLine } from './useSplitLine';

export type BenchProps = {
  page: PageRow;
  pages: readonly PageRow[];
  chosen: ReadonlySet<number>;
  stackId: number;
  stackChange: number;
  version: Version;
  change: (doing: Doing, options?: { onSettled?: () => void }) => void;
  turn: (way: 'undo' | 'redo') => void;
  busy: boolean;
  onStep: (by: number) => void;
  /** The tool in hand when it is opened. */
  firstTool: Tool;
  /** What is measured on the page, as beside every page. */
  measured: ReactNode;
};

type Panel = 'correct' | 'page' | 'history';
const BENCH_SIDES: { value: Panel; label: string }[] = [
  { value: 'correct', label: 'Correct' },
  { value: 'page', label: 'Page' },
  { value: 'history', label: 'History' },
];
const NEXT_COMPARE: Record<Compare, Compare> = { beside: 'curtain', curtain: 'one', one: 'beside' };
const NEXT_SIDE: Record<Panel, Panel> = { correct: 'page', page: 'history', history: 'correct' };
const PUT_BACK_MM = 2;

/** One page, original and corrected, and everything that can be set on it. */
export function Bench(props: BenchProps) {
  const { page } = props;
  // A tool stays in hand from page to page.
  const [tool, setTool] = useState<Tool>(props.firstTool);
  const { data: latest, error, refetch } = useQuery(pageQuery(page.id, String(page.change)));
  const data = latest?.row.id === page.id ? latest : undefined;
  if (page.state === 'failed')
    return <Beside main={<FailedPage id={page.id} error={page.error} />} side={props.measured} />;
  if (error && !data) return <Failed message={error.message} retry={() => refetch()} />;
  if (!data?.plan || !data.measurements)
    return (
      <Beside
        main={
          data ? (
            <Empty title="Not ready to be corrected yet">
              <p>It is measured next.</p>
            </Empty>
          ) : (
            <Loading label="Loading the page" className="m-6 h-[70%] opacity-40" />
          )
        }
        side={props.measured}
      />
    );
  return <Working key={page.id} {...props} data={data} tool={tool} setTool={setTool} />;
}

function Beside({ main, side }: { main: ReactNode; side: ReactNode }) {
  return (
    <>
      <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround text-on-accent">{main}</main>
      <aside aria-label="Page" className="w-[272px] shrink-0 overflow-y-auto border-l border-hairline bg-ground">
        {side}
      </aside>
    </>
  );
}

type WorkingProps = BenchProps & { data: Page; tool: Tool; setTool: (tool: Tool) => void };

function Working({ page, pages, chosen, data, tool, setTool, change, turn, busy, onStep, ...rest }: WorkingProps) {
  const [looking, setLooking] = useKept<{ compare: Compare; loupe: boolean; regions?: boolean }>('bench', {
    compare: 'beside',
    loupe: false,
  });
  const { compare: kept, loupe, regions = false } = looking;
  const [side, setSide] = useState<Panel>('correct');
  const [usingOn, setUsingOn] = useState(false);
  const [longest, setLongest] = useState(1000);
  const { wish, set, flush } = useCorrection(page, data, change);
  // Tools are used on the original, beside what comes of it.
  const compare = tool === 'look' ? kept : 'beside';
  const pending = Object.keys(wish).length > 0;
  const preview = usePreview(page.id, String(data.row.change), wish, longest);
  const { split: movedTo, ...tried } = wish;
  const own: Correction = { ...corrections(data), ...tried };
  // Between two answers the last one stands.
  const plan = (pending || !page.clean ? preview.data?.plan : undefined) ?? data.plan;
  const measured = data.measurements;
  if (!plan || !measured || !page.original) throw new Error('a page on the bench is measured and planned');

  const captured = measured.size_px as Size;
  const lie: Lie = {
    quad: plan.quad as unknown as Quad,
    size: plan.size_px as Size,
    turn: plan.turn as Turn,
    captured,
  };
  const corners = (own.quad as unknown as Quad | undefined) ?? reordered(lie.quad, lie.turn);
  const plain = (own.plain ?? plan.clear_outside ?? measured.bright_quad) as unknown as Quad;
  const upright = (point: Point) => turned(point, captured, lie.turn);

  const levelTo = (degrees: number) => {
    if (own.quad) {
      const [a, b] = reordered(corners, -lie.turn as -90);
      set({ quad: asField(rotated(corners, degrees - tiltOf(upright(a), upright(b)))) });
    } else set({ skew: Math.round(degrees * 1000) / 1000 });
  };
  const levelBy = (by: number) => {
    if (own.quad) set({ quad: asField(rotated(corners, by)) });
    else levelTo((own.skew ?? plan.skew_deg) + by);
  };
  const splitting = useSplitLine(data, lie, { movedTo, set, change });
  const split = () => {
    // What is still being set belongs to both halves.
    flush();
    if (splitting.half) return;
    setTool('look');
    splitting.split();
  };
  const unsplit = () => {
    flush();
    splitting.unsplit();
  };
  const putBack = (index: number) => {
    const side = (index + 4) as Side;
    const beyond = (PUT_BACK_MM / 25.4) * (measured.ppi?.[0] ?? 300);
    set({ plain: asField(opened(plain, measured.page_quad as unknown as Quad, side, captured, beyond)) }, true);
  };
  const asPlanned = () => {
    const nothing = nothingOf(own);
    if (nothing) set(nothing, true);
  };
  const takeTool = (next: Tool) => {
    setTool(tool === next ? 'look' : next);
  };
  const compareBy = (next: Compare) => {
    if (next !== 'beside') setTool('look');
    setLooking({ ...looking, compare: next });
  };
  const turning = (way: 'undo' | 'redo') => {
    flush();
    turn(way);
  };
  const openUseOn = () => {
    flush();
    setSide('correct');
    setUsingOn(true);
  };
  useCommands(
    benchCommands({
      tool,
      half: splitting.half,
      byHand: nothingOf(own) !== undefined,
      usingOn,
      take: takeTool,
      levelBy,
      moveLineBy: splitting.moveBy,
      split,
      nextComparison: () => compareBy(NEXT_COMPARE[compare]),
      swapLoupe: () => setLooking({ ...looking, loupe: !loupe }),
      swapRegions: () => setLooking({ ...looking, regions: !regions }),
      useOn: openUseOn,
      asPlanned,
      turn: turning,
      step: onStep,
      nextSide: () => setSide(NEXT_SIDE[side]),
      putAway: () => {
        setTool('look');
        setUsingOn(false);
      },
    }),
  );

  return (
    <>
      <Comparison
        page={page}
        lie={lie}
        version={rest.version}
        compare={compare}
        onCompare={compareBy}
        loupe={loupe}
        onLoupe={(next) => setLooking({ ...looking, loupe: next })}
        regions={regions ? (measured.regions ?? []) : undefined}
        onRegions={() => setLooking({ ...looking, regions: !regions })}
        tool={tool}
        onTool={takeTool}
        preview={pending || !page.clean ? preview.data : undefined}
        trouble={preview.error}
        saving={pending}
        onLongest={setLongest}
        corners={corners}
        pageQuad={measured.page_quad as unknown as Quad}
        plain={plain}
        kept={(plan.protected ?? []) as unknown as readonly Quad[]}
        line={splitting.line}
        half={splitting.half}
        onLine={splitting.move}
        onSplit={split}
        onUnsplit={unsplit}
        onCorners={(quad) => set({ quad: asField(quad) })}
        onPlain={(quad) => set({ plain: asField(quad) })}
        onPutBack={putBack}
        onTilt={levelTo}
        upright={upright}
      />
      <SidePanel label="Correct" value={side} options={BENCH_SIDES} onChange={setSide}>
        {side === 'page' && rest.measured}
        {side === 'history' && (
          <HistoryPanel stackId={rest.stackId} change={rest.stackChange} busy={busy} onTurn={turning} />
        )}
        {side === 'correct' &&
          (usingOn ? (
            <UseOn
              page={page}
              pages={pages}
              chosen={chosen}
              own={own}
              change={change}
              onLeave={() => setUsingOn(false)}
            />
          ) : (
            <CorrectPanel
              page={page}
              data={data}
              plan={plan}
              own={own}
              preview={preview.data}
              set={set}
              onTool={takeTool}
              onTilt={levelBy}
              onPutBack={putBack}
              onUseOn={openUseOn}
              onAsPlanned={asPlanned}
            />
          ))}
      </SidePanel>
    </>
  );
}
