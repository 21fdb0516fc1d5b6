import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { type Correction, usePreview } from '../../api/bench';
import { pageQuery } from '../../api/queries';
import type { Doing, Page, PageRow } from '../../api/types';
import { useCommands } from '../../commands/useCommands';
import { opened, reordered, rotated, type Side, tiltOf } from '../../geometry/corners';
import type { Quad } from '../../geometry/projective';
import { type Point, type Size, type Turn, turned } from '../../geometry/turned';
import { SidePanel } from '../../parts/SidePanel';
import { Empty, Failed, Loading } from '../../parts/States';
import { useKept } from '../../parts/useKept';
import { HistoryPanel } from '../stack/arrange/HistoryPanel';
import type { Version } from '../stack/version';
import { Comparison } from './Comparison';
import { CorrectPanel } from './CorrectPanel';
import type { Compare, Tool } from './toolNames';
import { UseOn } from './UseOn';
import { useCorrection } from './useCorrection';
import { useSplitLine } from './useSplitLine';
import type { Lie } from './view';

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
const STEP_DEG = 0.05;
const FAR = 10;
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
    return <Beside main={<Empty title="This page failed">{page.error}</Empty>} side={props.measured} />;
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
      <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround text-pale-ink">{main}</main>
      <aside aria-label="Page" className="w-[272px] shrink-0 overflow-y-auto border-l border-strong-line bg-board">
        {side}
      </aside>
    </>
  );
}

type WorkingProps = BenchProps & { data: Page; tool: Tool; setTool: (tool: Tool) => void };

function Working({ page, pages, chosen, data, tool, setTool, change, turn, busy, onStep, ...rest }: WorkingProps) {
  const [{ compare: kept, loupe }, setLooking] = useKept<{ compare: Compare; loupe: boolean }>('bench', {
    compare: 'beside',
    loupe: false,
  });
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
    } else set({ tilt: Math.round(degrees * 1000) / 1000 });
  };
  const levelBy = (by: number) => {
    if (own.quad) set({ quad: asField(rotated(corners, by)) });
    else levelTo((own.tilt ?? plan.tilt_deg) + by);
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
    const fields = Object.keys(own).filter((name) => own[name as keyof Correction] != null);
    if (fields.length) set(Object.fromEntries(fields.map((name) => [name, null])) as Correction, true);
  };
  const takeTool = (next: Tool) => {
    setTool(tool === next ? 'look' : next);
  };
  const compareBy = (next: Compare) => {
    if (next !== 'beside') setTool('look');
    setLooking({ compare: next, loupe });
  };
  const nudge = (of: Tool, name: string, label: string, key: string, by: number, move: (by: number) => void) => [
    { name, label, key, enabled: tool === of, perform: () => move(by) },
    {
      name: `${name} far`,
      label: `${label}, ten times as far`,
      key: `Shift+${key}`,
      enabled: tool === of,
      perform: () => move(by * FAR),
    },
  ];
  const byHand = Object.values(own).some((value) => value != null);
  const turning = (way: 'undo' | 'redo') => {
    flush();
    turn(way);
  };
  useCommands([
    { name: 'level', label: 'Level: draw along a text line', key: 't', perform: () => takeTool('level') },
    { name: 'corners', label: 'Corners and sides of the page', key: 'q', perform: () => takeTool('corners') },
    { name: 'borders', label: 'What is cleared of the borders', key: 'd', perform: () => takeTool('borders') },
    { name: 'split', label: 'Split line between two pages', key: 's', perform: () => takeTool('split') },
    {
      name: 'split here',
      label: 'Split here',
      key: 'Enter',
      enabled: tool === 'split' && !splitting.half,
      perform: split,
    },
    ...nudge('level', 'tilt right', 'Tilt by 0.05°', 'ArrowRight', STEP_DEG, levelBy),
    ...nudge('level', 'tilt left', 'Tilt by −0.05°', 'ArrowLeft', -STEP_DEG, levelBy),
    ...nudge('split', 'line right', 'Split line to the right', 'ArrowRight', 1, splitting.moveBy),
    ...nudge('split', 'line left', 'Split line to the left', 'ArrowLeft', -1, splitting.moveBy),
    {
      name: 'compare',
      label: 'Side by side, curtain, or one image',
      key: 'c',
      perform: () => compareBy(NEXT_COMPARE[compare]),
    },
    { name: 'loupe', label: 'Loupe', key: 'm', perform: () => setLooking({ compare: kept, loupe: !loupe }) },
    {
      name: 'use on',
      label: 'Use its corrections on other pages',
      key: 'w',
      enabled: byHand,
      perform: () => {
        flush();
        setSide('correct');
        setUsingOn(true);
      },
    },
    { name: 'planned', label: 'As planned', key: 'j', enabled: byHand, perform: asPlanned },
    { name: 'undo', label: 'Undo', key: 'z', perform: () => turning('undo') },
    { name: 'redo', label: 'Redo', key: 'y', perform: () => turning('redo') },
    { name: 'undo too', label: 'Undo', key: 'Ctrl+z', perform: () => turning('undo') },
    { name: 'redo too', label: 'Redo', key: 'Ctrl+Shift+z', perform: () => turning('redo') },
    { name: 'page after', label: 'Next page', key: 'PageDown', perform: () => onStep(1) },
    { name: 'page before', label: 'Previous page', key: 'PageUp', perform: () => onStep(-1) },
    {
      name: 'side',
      label: 'Corrections, what was measured, or history beside it',
      key: 'h',
      perform: () => setSide(NEXT_SIDE[side]),
    },
    {
      name: 'put tool away',
      label: 'Put the tool away',
      key: 'Escape',
      enabled: tool !== 'look' || usingOn,
      perform: () => {
        setTool('look');
        setUsingOn(false);
      },
    },
  ]);

  return (
    <>
      <Comparison
        page={page}
        lie={lie}
        version={rest.version}
        compare={compare}
        onCompare={compareBy}
        loupe={loupe}
        onLoupe={(next) => setLooking({ compare: kept, loupe: next })}
        tool={tool}
        onTool={takeTool}
        preview={pending || !page.clean ? preview.data : undefined}
        trouble={preview.error}
        saving={pending}
        onLongest={setLongest}
        corners={corners}
        pageQuad={measured.page_quad as unknown as Quad}
        plain={plain}
        spared={(plan.spared ?? []) as unknown as readonly Quad[]}
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
              onUseOn={() => {
                flush();
                setUsingOn(true);
              }}
              onAsPlanned={asPlanned}
            />
          ))}
      </SidePanel>
    </>
  );
}

const asField = (quad: Quad) => quad as unknown as NonNullable<Correction['quad']>;

const FIELDS = [
  'turn',
  'tilt',
  'quad',
  'crop',
  'clear',
  'plain',
  'colour',
  'even_tone',
  'reduce_show_through',
  'adjust',
] as const satisfies readonly (keyof Correction)[];

/** What is corrected by hand on the page as it is saved. */
function corrections({ override }: Page): Correction {
  return Object.fromEntries(FIELDS.map((name) => [name, override[name] ?? null])) as Correction;
}
