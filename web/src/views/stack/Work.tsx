import { Suspense, useCallback, useMemo, useRef, useState } from 'react';
import { useLocation, useSearch } from 'wouter';
import { useMay } from '@/api/people';
import type { Doing, PageRow, Pages as PagesData, Stack } from '@/api/types';
import { useRetry } from '@/api/work';
import type { Tool } from '@/engine/bench/toolNames';
import type { Hands } from '@/engine/changes/hands';
import { type AsideReason, afterFor, allowed, arrangeCommands } from '@/engine/keys/arrange';
import { arrangingIn, NEXT_LAYOUT, type Place, stackCommands } from '@/engine/keys/stack';
import { afterGap, type Happening } from '@/engine/selection/selection';
import { NEXT_SIDE, SIDES, type Side } from '@/engine/sides';
import { other, type Version } from '@/engine/version';
import type { Close } from '@/engine/zoom/kept';
import { useCommands } from '@/hooks/useCommands';
import { useFetched } from '@/hooks/useFetched';
import { useKept } from '@/hooks/useKept';
import { useSelection } from '@/hooks/useSelection';
import { useBusy } from '@/hooks/useStackPages';
import { Guarded } from '@/ui/Guarded';
import { SidePanel } from '@/ui/SidePanel';
import { Loading } from '@/ui/States';
import { VersionChoice } from '@/ui/VersionChoice';
import { view } from '@/ui/view';
import { ChosenLine } from './ChosenLine';
import { Edge, pageWords } from './Edge';
import { type Filter, filtered, SHOWING } from './Filters';
import { Heard } from './Heard';
import { PageActions } from './PageActions';
import { PageLarge } from './PageLarge';
import { Pages } from './Pages';
import { ArrangePanel } from './panels/ArrangePanel';
import { ChecksPanel } from './panels/ChecksPanel';
import { HistoryPanel } from './panels/HistoryPanel';
import { Measured } from './panels/Measured';

const Bench = view(async () => (await import('@/views/bench/Bench')).Bench);
const Bind = view(async () => (await import('@/views/bind/BindView')).BindView);
const Describe = view(async () => (await import('@/views/describe/DescribeView')).DescribeView);
const Dispatch = view(async () => (await import('@/views/dispatch/DispatchView')).DispatchView);
const Reading = view(async () => (await import('@/views/reading/ReadingView')).ReadingView);
const Inspect = view(async () => (await import('@/views/inspect/InspectView')).InspectView);
const Sample = view(async () => (await import('@/views/sample/SampleView')).SampleView);
const Intake = view(async () => (await import('@/views/intake/Intake')).Intake);

const PARTS = [Bench, Reading, Inspect, Sample, Intake, Bind, Describe, Dispatch];

export type WorkProps = {
  stack: Stack | undefined;
  stackId: number;
  data: PagesData | undefined;
  rest: string;
  place: Place;
  /** The page that the address names. */
  named: number | undefined;
  hands: Hands;
  troubled: boolean;
};

/** The pages of a stack: the fore-edge, what is chosen, and the view that is open on them. */
export function Work({ stack, stackId, data, rest, place, named, hands, troubled }: WorkProps) {
  const [, go] = useLocation();
  const [may, inspect] = [useMay('work'), useMay('inspect')];
  const [filter, setFilter] = useState<Filter>('all');
  const [version, setVersion] = useState<Version>('clean');
  const [showing, setShowing] = useKept('showing', SHOWING);
  const [{ side }, setSide] = useKept<{ side: Side }>('side', { side: 'page' });
  const [columns, setColumns] = useState(1);
  const [cut, setCut] = useState<readonly number[]>([]);
  const [reason, setReason] = useState<AsideReason>('by hand');
  const [close, setClose] = useState<Close>();
  const position = useRef<HTMLInputElement>(null);
  const { busy } = useBusy(hands);
  const retry = useRetry();

  useFetched(PARTS);

  const pages = data?.pages ?? NONE;
  const starts = useStarts(data);
  const shown = useMemo(() => filtered(pages, filter, starts), [pages, filter, starts]);
  const all = useMemo(() => pages.map(({ id }) => id), [pages]);
  const order = useMemo(() => shown.map(({ id }) => id), [shown]);
  const [selection, happen] = useSelection(order, all, named);
  const byId = useMemo(() => new Map(pages.map((page) => [page.id, page])), [pages]);
  const current = selection.current === undefined ? undefined : byId.get(selection.current);
  const chosen = useMemo(() => {
    const found = [...selection.ids].flatMap((id) => byId.get(id) ?? []);
    return found.sort((a, b) => a.number - b.number);
  }, [selection.ids, byId]);
  // Words looked for in the text are on these pages.
  const [hits, setHits] = useState<readonly number[]>(NO_HITS);
  const found = useMemo(() => hits.flatMap((id) => byId.get(id) ?? []), [hits, byId]);
  const several = useMemo(() => (chosen.length > 1 ? chosen : NONE), [chosen]);
  const cutIds = useMemo(() => new Set(cut), [cut]);
  // On the bench one page is chosen; what was chosen before it is what corrections can be applied to.
  const [benchChosen, setBenchChosen] = useState<ReadonlySet<number>>(new Set());

  const finding = new URLSearchParams(useSearch()).get('find') ?? undefined;
  const base = `/stacks/${stackId}`;
  const one = place === 'large' || place === 'bench' || place === 'text' || place === 'inspect';
  const change = useCallback((doing: Doing) => void hands.do(doing), [hands]);
  const turn = useCallback((way: 'undo' | 'redo') => void hands.turn(way), [hands]);
  const choose = (happening: Happening) => {
    const next = happen(happening);
    if (one && next.current !== undefined && next.current !== named)
      go(`${base}/${ONE[place] ?? 'pages'}/${next.current}`, { replace: true });
  };
  const step = (by: number, how: 'alone' | 'run' | 'walk' = 'alone') => choose({ kind: 'step', by, how });
  const openBench = (page: PageRow, tool = '') => {
    setBenchChosen(selection.ids);
    go(`${base}/bench/${page.id}${tool}`);
  };
  const openPage = useCallback((page: PageRow) => go(`/stacks/${stackId}/pages/${page.id}`), [go, stackId]);
  const every = arrangeCommands({
    chosen,
    current,
    cut,
    setCut,
    reason,
    change,
    openSplit: (page) => openBench(page, '/split'),
    askPosition: () => {
      setSide({ side: 'arrange' });
      requestAnimationFrame(() => position.current?.focus());
    },
  });
  const commands = allowed(every, { work: may, inspect });
  const here = arrangingIn(place, commands);
  useCommands([
    ...stackCommands({
      place,
      shown: order.length,
      columns,
      cut: cut.length,
      some: !!current,
      correctable: may && !!current?.original,
      by: step,
      chooseAll: () => choose({ kind: 'all' }),
      toggle: () => current && choose({ kind: 'toggle', id: current.id }),
      forgetCut: () => setCut([]),
      look: () => current && openPage(current),
      correct: () => current && openBench(current),
      swapVersion: () => setVersion(other),
      nextLayout: () => setShowing({ ...showing, layout: NEXT_LAYOUT[showing.layout] }),
      nextSide: () => setSide({ side: NEXT_SIDE[side] }),
      troubled: may && troubled,
      retry: () => retry.mutate({ stack: stackId }),
      turn,
      go: (view) => go(view ? `${base}/${view}` : base),
      leave: () => go('/'),
    }),
    ...here,
  ]);

  const measured = current && (
    <Measured
      stackId={stackId}
      page={current}
      pages={pages}
      action={
        may && (
          <PageActions
            page={current}
            busy={busy}
            onChange={change}
            onCorrect={place === 'bench' ? undefined : openBench}
          />
        )
      }
    />
  );
  return (
    <>
      <Heard counts={data?.counts} page={one ? pageWords(current, pages.length) : ''} />
      <Edge
        pages={pages}
        current={current}
        marked={place === 'text' ? found : several}
        runs={place === 'grid'}
        onChoose={choose}
      />
      <Guarded key={place} what="This view of the stack">
        <Suspense fallback={<Loading label="Loading the view" className="m-6 h-10 flex-1" />}>
          {place === 'intake' ? (
            <Intake
              stack={stack}
              stackId={stackId}
              pages={pages}
              page={current}
              onChange={change}
              onPage={(id) => choose({ kind: 'only', id })}
            />
          ) : place === 'bench' && current ? (
            <Bench
              page={current}
              pages={pages}
              chosen={benchChosen}
              stackId={stackId}
              version={version}
              hands={hands}
              onStep={step}
              onLeave={() => go(rest.endsWith('/inspect') ? `${base}/inspect/${current.id}` : base)}
              firstTool={toolIn(rest)}
              measured={measured}
            />
          ) : place === 'text' ? (
            <Reading
              stack={stack}
              stackId={stackId}
              data={data}
              page={named === undefined ? undefined : byId.get(named)}
              hands={hands}
              may={may}
              find={finding}
              onPage={(id) => happen({ kind: 'only', id })}
              onHits={setHits}
              onScope={(id) => go(id === undefined ? `${base}/text` : `${base}/text/${id}`, { replace: true })}
              onLeave={() => go(base)}
            />
          ) : place === 'inspect' ? (
            <Inspect
              stackId={stackId}
              data={data}
              named={named}
              hands={hands}
              may={{ work: may, inspect }}
              onPage={(id) => happen({ kind: 'only', id })}
            />
          ) : place === 'sample' ? (
            <Sample stackId={stackId} data={data} may={inspect} onPage={(id) => happen({ kind: 'only', id })} />
          ) : place === 'dispatch' ? (
            <Dispatch stackId={stackId} pages={pages} chosen={chosen} />
          ) : place === 'describe' ? (
            <Describe
              stackId={stackId}
              name={stack?.name ?? ''}
              ready={data?.counts.ready ?? 0}
              may={may}
              onLeave={() => go(`${base}/bind`)}
            />
          ) : place === 'bind' ? (
            <Bind
              stackId={stackId}
              stackName={stack?.name ?? ''}
              data={data}
              page={current?.id}
              onPage={(id) => happen({ kind: 'only', id })}
            />
          ) : (
            <>
              <main className="on-surround flex min-h-[70vh] min-w-0 flex-1 flex-col bg-surround lg:min-h-0">
                <Guarded what="The pages">
                  {place === 'large' && current ? (
                    <PageLarge
                      page={current}
                      pages={pages}
                      version={version}
                      onVersion={setVersion}
                      close={close}
                      onClose={setClose}
                    />
                  ) : (
                    <>
                      <Pages
                        all={data?.pages}
                        pages={shown}
                        shown={order}
                        filter={filter}
                        onFilter={setFilter}
                        showing={showing}
                        onShowing={setShowing}
                        selection={selection}
                        cut={cutIds}
                        starts={starts}
                        version={version}
                        commands={commands}
                        onChoose={choose}
                        onMove={(gap) => {
                          if (may)
                            change({
                              do: 'move',
                              pages: chosen.map(({ id }) => id),
                              after: afterGap({ shown: order, all }, gap, selection.ids),
                            });
                        }}
                        onOpen={openPage}
                        onColumns={setColumns}
                        intake={may ? `${base}/intake` : undefined}
                      >
                        <VersionChoice version={version} onVersion={setVersion} />
                      </Pages>
                      <ChosenLine chosen={chosen} cut={cut.length} />
                    </>
                  )}
                </Guarded>
              </main>
              <SidePanel
                label={SIDES.find(({ value }) => value === side)?.name ?? ''}
                value={side}
                options={SIDES}
                onChange={(next) => setSide({ side: next })}
              >
                {side === 'page' && measured}
                {side === 'arrange' && (
                  <ArrangePanel
                    chosen={chosen}
                    total={pages.length}
                    commands={here}
                    reason={reason}
                    onReason={setReason}
                    positionField={position}
                    onPosition={(to) =>
                      change({ do: 'move', pages: chosen.map(({ id }) => id), after: afterFor(all, selection.ids, to) })
                    }
                  />
                )}
                {side === 'checks' && (
                  <ChecksPanel
                    stackId={stackId}
                    change={data?.change ?? 0}
                    pages={pages}
                    onPage={(id) => choose({ kind: 'only', id })}
                  />
                )}
                {side === 'history' && <HistoryPanel stackId={stackId} busy={busy} onTurn={turn} />}
              </SidePanel>
            </>
          )}
        </Suspense>
      </Guarded>
    </>
  );
}

/** The pages with which a document begins, but for the first: where one would see a break. */
function useStarts(data: PagesData | undefined): ReadonlySet<number> {
  // The list is new with every answer; what it says changes seldom.
  const said = data?.starts.join() ?? '';
  return useMemo(() => new Set(said.split(',').map(Number)), [said]);
}

/** Views that show one page, by the word for them in the address. */
const ONE: Partial<Record<Place, string>> = { bench: 'bench', text: 'text', inspect: 'inspect' };

/** The tool that an address of the bench names, as the last word or before where one came from. */
function toolIn(rest: string): Tool {
  const word = rest.split('/')[2] ?? '';
  return TOOLS.find((tool) => tool === word) ?? 'move';
}

const TOOLS: readonly Tool[] = ['move', 'corners', 'level', 'borders', 'split'];

const NONE: PageRow[] = [];
const NO_HITS: readonly number[] = [];
