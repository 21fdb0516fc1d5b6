import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { pageQuery } from '@/api/queries';
import type { Page, PageRow } from '@/api/types';
import type { Compare, Tool } from '@/engine/bench/toolNames';
import type { Hands } from '@/engine/changes/hands';
import { benchCommands } from '@/engine/keys/bench';
import type { Version } from '@/engine/version';
import type { Close } from '@/engine/zoom/kept';
import { useAhead } from '@/hooks/useAhead';
import { useBench } from '@/hooks/useBench';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { useBusy } from '@/hooks/useStackPages';
import { Guarded } from '@/ui/Guarded';
import { SidePanel } from '@/ui/SidePanel';
import { Empty, Failed, Loading } from '@/ui/States';
import { FailedPage } from '../stack/FailedPage';
import { HistoryPanel } from '../stack/panels/HistoryPanel';
import { ApplyTo } from './ApplyTo';
import { Comparison } from './Comparison';
import { CorrectPanel } from './CorrectPanel';

export type BenchProps = {
  page: PageRow;
  pages: readonly PageRow[];
  chosen: ReadonlySet<number>;
  stackId: number;
  version: Version;
  hands: Hands;
  onStep: (by: number) => void;
  onLeave: () => void;
  /** The tool in hand when it is opened. */
  firstTool: Tool;
  /** What is measured on the page, as beside every page. */
  measured: ReactNode;
};

type Panel = 'correct' | 'page' | 'history';
const PANELS: { value: Panel; label: string }[] = [
  { value: 'correct', label: 'Correct' },
  { value: 'page', label: 'Page' },
  { value: 'history', label: 'History' },
];
const NEXT_COMPARE: Record<Compare, Compare> = {
  beside: 'curtain',
  curtain: 'single',
  single: 'difference',
  difference: 'beside',
};
const NEXT_PANEL: Record<Panel, Panel> = { correct: 'page', page: 'history', history: 'correct' };
const LOOKING = { compare: 'beside' as Compare, loupe: false, regions: false };

/** One page, original and corrected, and everything that can be set on it. */
export function Bench(props: BenchProps) {
  const { page, pages, measured, onLeave, onStep } = props;
  // A tool, and how closely is looked, stay in hand from page to page.
  const [tool, setTool] = useState<Tool>(props.firstTool);
  const [close, setClose] = useState<Close>();
  const { data: latest, error, refetch } = useQuery(pageQuery(page.id, String(page.change)));
  useAhead(page, pages);
  const data = latest?.row.id === page.id ? latest : undefined;
  const ready = data?.plan && data.measurements && page.original ? data : undefined;
  const waiting = ready === undefined;
  useCommands(waiting ? waitingCommands(onLeave, onStep) : []);
  if (page.state === 'failed') return <Beside main={<FailedPage id={page.id} error={page.error} />} side={measured} />;
  if (error && !data) return <Failed message={error.message} retry={() => refetch()} />;
  if (!ready)
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
        side={measured}
      />
    );
  return (
    <Guarded of={page.id} what="This page on the bench">
      <Working {...props} data={ready} tool={tool} setTool={setTool} close={close} setClose={setClose} />
    </Guarded>
  );
}

function waitingCommands(leave: () => void, step: (by: number) => void) {
  const held = { subject: 'Step', repeats: true } as const;
  return [
    { name: 'back', label: 'Back to all pages', key: 'Escape', subject: 'Go to', perform: leave } as const,
    { name: 'page after', label: 'Next page', key: 'ArrowRight', ...held, perform: () => step(1) },
    { name: 'page before', label: 'Previous page', key: 'ArrowLeft', ...held, perform: () => step(-1) },
  ];
}

function Beside({ main, side }: { main: ReactNode; side: ReactNode }) {
  return (
    <>
      <main className="flex min-h-[60vh] min-w-0 flex-1 flex-col bg-ground lg:min-h-0">{main}</main>
      <aside aria-label="Page" className="w-full shrink-0 overflow-y-auto border-l border-hairline bg-panel lg:w-80">
        {side}
      </aside>
    </>
  );
}

type WorkingProps = BenchProps & {
  data: Page;
  tool: Tool;
  setTool: (tool: Tool) => void;
  close: Close | undefined;
  setClose: (close: Close | undefined) => void;
};

function Working({ page, pages, chosen, data, hands, tool, setTool, onStep, onLeave, ...rest }: WorkingProps) {
  const bench = useBench(page, data, hands);
  const { busy } = useBusy(hands);
  const [looking, setLooking] = useKept('bench', LOOKING);
  const { compare: kept, loupe, regions } = looking;
  const [panel, setPanel] = useState<Panel>('correct');
  const [applyingOn, setApplyingOn] = useState<number>();
  const applying = applyingOn === page.id;
  const setApplying = (on: boolean) => setApplyingOn(on ? page.id : undefined);
  // Tools are used on the original, beside what comes of it.
  const compare = tool === 'move' ? kept : 'beside';
  const takeTool = (next: Tool) => setTool(tool === next ? 'move' : next);
  const compareBy = (next: Compare) => {
    if (next !== 'beside') setTool('move');
    setLooking({ ...looking, compare: next });
  };
  const turn = (way: 'undo' | 'redo') => {
    bench.flush();
    void hands.turn(way);
  };
  const apply = () => {
    bench.flush();
    setPanel('correct');
    setApplying(true);
  };
  const split = () => {
    if (!bench.half) setTool('move');
    bench.split();
  };
  useCommands(
    benchCommands({
      tool,
      half: bench.half,
      byHand: bench.byHand,
      applying,
      take: takeTool,
      levelBy: bench.levelBy,
      moveLineBy: bench.moveLineBy,
      split,
      nextComparison: () => compareBy(NEXT_COMPARE[compare]),
      swapLoupe: () => setLooking({ ...looking, loupe: !loupe }),
      swapRegions: () => setLooking({ ...looking, regions: !regions }),
      apply,
      asTreated: bench.asTreated,
      turn,
      step: onStep,
      nextSide: () => setPanel(NEXT_PANEL[panel]),
      putAway: () => {
        setTool('move');
        setApplying(false);
      },
      leave: onLeave,
    }),
  );
  return (
    <>
      <Comparison
        bench={bench}
        version={rest.version}
        compare={compare}
        onCompare={compareBy}
        loupe={loupe}
        onLoupe={(next) => setLooking({ ...looking, loupe: next })}
        regions={regions}
        onRegions={(next) => setLooking({ ...looking, regions: next })}
        tool={tool}
        onTool={takeTool}
        onSplit={split}
        close={rest.close}
        onClose={rest.setClose}
      />
      <SidePanel label="Correct" value={panel} options={PANELS} onChange={setPanel}>
        {panel === 'page' && rest.measured}
        {panel === 'history' && <HistoryPanel stackId={rest.stackId} busy={busy} onTurn={turn} />}
        {panel === 'correct' &&
          (applying ? (
            <ApplyTo
              key={page.id}
              page={page}
              pages={pages}
              chosen={chosen}
              own={bench.own}
              change={(doing) => void hands.do(doing)}
              onLeave={() => setApplying(false)}
            />
          ) : (
            <CorrectPanel bench={bench} onTool={takeTool} onApply={apply} />
          ))}
      </SidePanel>
    </>
  );
}
