import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useLocation } from 'wouter';
import { stackQuery, useChange, useStackPages } from '@/api/queries';
import type { PageRow } from '@/api/types';
import { useRetry, useViewing } from '@/api/work';
import { extended, only, type Selection, these } from '@/engine/selection/selection';
import { NEXT_SIDE, SIDES, type Side } from '@/engine/sides';
import { troubled } from '@/engine/trouble';
import { other, type Version } from '@/engine/version';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { ForeEdge } from '@/ui/ForeEdge';
import { SidePanel } from '@/ui/SidePanel';
import { Failed } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { Bench } from '@/views/bench/Bench';
import { BindView } from '@/views/bind/BindView';
import { CaptureView } from '@/views/intake/capture/CaptureView';
import { ArrangePanel } from '@/views/stack/arrange/ArrangePanel';
import { ChecksPanel } from '@/views/stack/arrange/ChecksPanel';
import { type AsideReason, afterFor, arrangeCommands } from '@/views/stack/arrange/commands';
import { HistoryPanel } from '@/views/stack/arrange/HistoryPanel';
import { placeIn, stackCommands } from './commands';
import { type Filter, filtered, SHOWING } from './Filters';
import { Measured } from './Measured';
import { PageLarge } from './PageLarge';
import { Pages } from './Pages';
import { StepPath } from './StepPath';
import { TroubleBar } from './TroubleBar';
import { useSelection, useStarts } from './useSelection';

export type StackViewProps = { user: string; stackId: number; rest: string };

/** Around every view of a stack: the way of the work on top, the fore-edge on the left, the page or the hands on the right. */
export function StackView({ user, stackId, rest }: StackViewProps) {
  const [, go] = useLocation();
  const { data: stack, error: missing } = useQuery(stackQuery(stackId));
  const { data, error, refetch, online } = useStackPages(stackId);
  const [filter, setFilter] = useState<Filter>('all');
  const [version, setVersion] = useState<Version>('clean');
  const [showing, setShowing] = useKept('showing', SHOWING);
  const [{ side }, setSide] = useKept<{ side: Side }>('side', { side: 'page' });
  const [columns, setColumns] = useState(1);
  const [cut, setCut] = useState<readonly number[]>([]);
  const [reason, setReason] = useState<AsideReason>('by hand');
  const position = useRef<HTMLInputElement>(null);
  const { change, turn, busy } = useChange(stackId);
  const pages = data?.pages ?? NONE;
  const shown = useMemo(() => filtered(pages, filter), [pages, filter]);

  const base = `/stacks/${stackId}`;
  const place = placeIn(rest);
  const grid = place === 'grid';
  const large = place === 'large';
  const benching = place === 'bench';
  const work = grid || large || benching;
  const named = large || benching ? Number(rest.split('/')[1]) : undefined;

  const [selection, setSelection] = useSelection(pages, shown, named);
  const chosen = useMemo(() => pages.filter(({ id }) => selection.ids.has(id)), [pages, selection]);
  const current = pages.find((page) => page.id === selection.current);
  // On the bench one page is chosen; what was chosen before it is what corrections can be used on.
  const [benchChosen, setBenchChosen] = useState<ReadonlySet<number>>(new Set());
  const cutIds = useMemo(() => new Set(cut), [cut]);
  const starts = useStarts(data);
  const trouble = useMemo(() => troubled(pages), [pages]);
  const retry = useRetry();
  useViewing(stackId, named ?? null);

  const chosenLines = useMemo(
    () => (chosen.length > 1 ? new Set(chosen.map(({ number }) => number - 1)) : undefined),
    [chosen],
  );
  const selectRun = (from: number, to: number) => {
    const [first, last] = from < to ? [from, to] : [to, from];
    const run = pages.slice(first, last + 1).map(({ id }) => id);
    setSelection({ ids: new Set(run), current: pages[to]?.id, anchor: pages[from]?.id });
  };
  const select = (next: Selection) => {
    setSelection(next);
    if ((large || benching) && next.current !== undefined)
      go(`${base}/${benching ? 'bench' : 'pages'}/${next.current}`, { replace: true });
  };
  const openBench = (page: PageRow, tool = '') => {
    setBenchChosen(selection.ids);
    go(`${base}/bench/${page.id}${tool}`);
  };
  const openPage = useCallback((page: PageRow) => go(`/stacks/${stackId}/pages/${page.id}`), [go, stackId]);
  const list = shown.length ? shown : pages;
  const order = list.map(({ id }) => id);
  const by = (step: number, extend = false) => {
    const at = selection.current === undefined ? -1 : order.indexOf(selection.current);
    const id = order[Math.max(0, Math.min(order.length - 1, at + step))];
    if (id !== undefined) select(extend ? extended(selection, order, id) : only(id));
  };
  const commands = arrangeCommands({
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
  useCommands(
    stackCommands(
      {
        place,
        shown: order.length,
        columns,
        cut: cut.length,
        some: !!current,
        correctable: !!current?.original,
        by,
        chooseAll: () => setSelection(these(order, selection.current)),
        forgetCut: () => setCut([]),
        look: () => current && openPage(current),
        correct: () => current && openBench(current),
        swapVersion: () => setVersion(other),
        nextLayout: () => setShowing({ ...showing, layout: NEXT[showing.layout] }),
        nextSide: () => setSide({ side: NEXT_SIDE[side] }),
        troubled: trouble !== undefined,
        retry: () => retry.mutate({ stack: stackId }),
        turn,
        go: (view) => go(view ? `${base}/${view}` : base),
        leave: () => go('/'),
      },
      commands,
    ),
  );

  const measuredPanel = current && (
    <Measured
      page={current}
      pages={pages}
      action={
        current.original && (
          <div className="grid grid-cols-2 gap-1">
            <Button
              disabled={busy}
              className={benching ? 'col-span-2' : ''}
              onClick={() =>
                change({ do: 'aside', pages: [current.id], aside: current.aside === '', reason: 'by hand' })
              }
            >
              {current.aside ? 'Put back' : 'Hold aside'}
            </Button>
            {!benching && (
              <Button className="justify-between!" onClick={() => openBench(current)}>
                Correct <kbd className="font-mono text-small text-soft">E</kbd>
              </Button>
            )}
          </div>
        )
      }
    />
  );
  const problem = missing ?? (data ? null : error);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title={stack?.name}>
        {!online && <span role="status">Connection lost, trying again …</span>}
        {data && !data.engine && <span role="status">The engine does not answer yet: pages wait.</span>}
        {cut.length > 0 && <span role="status">{cut.length} cut</span>}
        {work && (
          <Choice
            label="Which image"
            value={version}
            onChange={setVersion}
            options={[
              { value: 'original', label: 'Original' },
              { value: 'clean', label: 'Corrected' },
            ]}
          />
        )}
      </TopBar>
      <StepPath counts={data?.counts} at={work ? 'pages' : place} base={base} />
      {trouble && !problem && <TroubleBar stackId={stackId} trouble={trouble} />}
      {problem ? (
        <Failed message={problem.message} retry={() => refetch()} />
      ) : (
        <div className="flex min-h-0 flex-1">
          <nav aria-label="Fore-edge" className="w-[104px] shrink-0 border-r border-hairline bg-surround p-2">
            <ForeEdge
              lines={pages}
              current={pages.findIndex((page) => page.id === current?.id)}
              chosen={chosenLines}
              onGo={(index) => pages[index] && select(only(pages[index].id))}
              {...(grid ? { onRun: selectRun } : {})}
              className="h-full w-full"
            />
          </nav>
          {place === 'intake' ? (
            <CaptureView
              stack={stack}
              stackId={stackId}
              change={data?.change ?? 0}
              pages={pages}
              page={current}
              onChange={change}
              onPage={(id) => setSelection(only(id))}
            />
          ) : benching && current ? (
            <Bench
              page={current}
              pages={pages}
              chosen={benchChosen}
              stackId={stackId}
              stackChange={data?.change ?? 0}
              version={version}
              change={change}
              turn={turn}
              busy={busy}
              onStep={by}
              firstTool={rest.endsWith('/split') ? 'split' : 'look'}
              measured={measuredPanel}
            />
          ) : place === 'bind' ? (
            <BindView stackId={stackId} stackName={stack?.name ?? ''} data={data} />
          ) : (
            <>
              <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround">
                {large && current ? (
                  <PageLarge page={current} version={version} />
                ) : (
                  <Pages
                    all={data?.pages}
                    shown={shown}
                    filter={filter}
                    onFilter={setFilter}
                    showing={showing}
                    onShowing={setShowing}
                    selection={selection}
                    cut={cutIds}
                    starts={starts}
                    version={version}
                    onSelect={setSelection}
                    onMove={(ids, after) => change({ do: 'move', pages: ids, after })}
                    onOpen={openPage}
                    onColumns={setColumns}
                    intake={`${base}/intake`}
                  />
                )}
              </main>
              <SidePanel
                label={SIDES.find(({ value }) => value === side)?.name ?? ''}
                value={side}
                options={SIDES}
                onChange={(next) => setSide({ side: next })}
              >
                {side === 'page' && measuredPanel}
                {side === 'arrange' && (
                  <ArrangePanel
                    chosen={chosen}
                    total={pages.length}
                    commands={commands}
                    reason={reason}
                    onReason={setReason}
                    positionField={position}
                    onPosition={(to) => {
                      const ids = pages.map(({ id }) => id);
                      change({
                        do: 'move',
                        pages: chosen.map(({ id }) => id),
                        after: afterFor(ids, selection.ids, to),
                      });
                    }}
                  />
                )}
                {side === 'checks' && (
                  <ChecksPanel
                    stackId={stackId}
                    change={data?.change ?? 0}
                    pages={pages}
                    onPage={(id) => select(only(id))}
                  />
                )}
                {side === 'history' && (
                  <HistoryPanel stackId={stackId} change={data?.change ?? 0} busy={busy} onTurn={turn} />
                )}
              </SidePanel>
            </>
          )}
        </div>
      )}
    </div>
  );
}

const NONE: PageRow[] = [];
const NEXT = { pages: 'leaves', leaves: 'facing', facing: 'pages' } as const;
