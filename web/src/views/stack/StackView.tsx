import { useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { useLocation } from 'wouter';
import { stackQuery, useSetAside, useStackPages } from '../../api/queries';
import type { PageRow } from '../../api/types';
import { useCommands } from '../../commands/useCommands';
import { Button } from '../../parts/Button';
import { Choice } from '../../parts/Choice';
import { ForeEdge } from '../../parts/ForeEdge';
import { Empty, Failed, Loading } from '../../parts/States';
import { TopBar } from '../../parts/TopBar';
import { BindView } from '../bind/BindView';
import { type Filter, Filters, filtered } from './Filters';
import { Measured } from './Measured';
import { PageGrid } from './PageGrid';
import { PageLarge } from './PageLarge';
import { StepPath } from './StepPath';
import { other, type Version } from './version';

export type StackViewProps = { user: string; stackId: number; rest: string };

/** Around every view of a stack: the way of the work on top, the fore-edge on the left, what was measured on the right. */
export function StackView({ user, stackId, rest }: StackViewProps) {
  const [, go] = useLocation();
  const { data: stack, error: missing } = useQuery(stackQuery(stackId));
  const { data, error, refetch, online } = useStackPages(stackId);
  const [filter, setFilter] = useState<Filter>('all');
  const [version, setVersion] = useState<Version>('clean');
  const [columns, setColumns] = useState(1);
  const setAside = useSetAside(stackId);
  const pages = data?.pages ?? NONE;
  const shown = useMemo(() => filtered(pages, filter), [pages, filter]);

  const base = `/stacks/${stackId}`;
  const binding = rest === 'bind';
  const large = rest.startsWith('pages/');
  const [selected, setSelected] = useState<number>();
  const openId = large ? Number(rest.slice('pages/'.length)) : selected;
  const current = pages.find((page) => page.id === openId) ?? shown[0];

  const choose = useCallback(
    (page: PageRow | undefined) => {
      if (!page) return;
      setSelected(page.id);
      if (large) go(`${base}/pages/${page.id}`, { replace: true });
    },
    [base, go, large],
  );
  const by = (step: number) => {
    const list = shown.length ? shown : pages;
    const at = list.findIndex((page) => page.id === current?.id);
    choose(list[Math.max(0, Math.min(list.length - 1, at + step))]);
  };
  const toggleAside = () => {
    if (current?.original) setAside.mutate({ page: current, aside: current.aside === '' });
  };
  useCommands([
    { name: 'next', label: 'Next page', key: 'ArrowRight', shown: '→', enabled: !binding, perform: () => by(1) },
    {
      name: 'previous',
      label: 'Previous page',
      key: 'ArrowLeft',
      shown: '←',
      enabled: !binding,
      perform: () => by(-1),
    },
    {
      name: 'down',
      label: 'Page below',
      key: 'ArrowDown',
      shown: '↓',
      enabled: !binding && !large,
      perform: () => by(columns),
    },
    {
      name: 'up',
      label: 'Page above',
      key: 'ArrowUp',
      shown: '↑',
      enabled: !binding && !large,
      perform: () => by(-columns),
    },
    {
      name: 'open',
      label: 'Look at the page large',
      key: 'Enter',
      enabled: !binding && !large && !!current,
      perform: () => current && go(`${base}/pages/${current.id}`),
    },
    { name: 'version', label: 'Original or corrected', key: 'o', enabled: !binding, perform: () => setVersion(other) },
    {
      name: 'aside',
      label: 'Hold the page aside, or put it back',
      key: 'a',
      enabled: !binding && !!current?.original,
      perform: toggleAside,
    },
    { name: 'bind', label: 'Go to binding', key: 'b', enabled: !binding, perform: () => go(`${base}/bind`) },
    {
      name: 'back',
      label: large || binding ? 'Back to all pages' : 'Back to the shelf',
      key: 'Escape',
      shown: 'Esc',
      perform: () => go(large || binding ? base : '/'),
    },
  ]);

  const problem = missing ?? (data ? null : error);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user} title={stack?.name}>
        {!online && <span role="status">Connection lost, trying again …</span>}
        {data && !data.engine && <span role="status">The engine does not answer yet: pages wait.</span>}
        {!binding && (
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
      <StepPath counts={data?.counts} binding={binding} onPages={() => go(base)} onBind={() => go(`${base}/bind`)} />
      {problem ? (
        <Failed message={problem.message} retry={() => refetch()} />
      ) : (
        <div className="flex min-h-0 flex-1">
          <nav aria-label="Fore-edge" className="w-[104px] shrink-0 border-r border-strong-line bg-surround p-2">
            <ForeEdge
              lines={pages}
              current={pages.findIndex((page) => page.id === current?.id)}
              onGo={(index) => choose(pages[index])}
              className="h-full w-full"
            />
          </nav>
          {binding ? (
            <BindView stackId={stackId} stackName={stack?.name ?? ''} data={data} />
          ) : (
            <>
              <main className="on-surround flex min-w-0 flex-1 flex-col bg-surround">
                {large && current ? (
                  <PageLarge page={current} version={version} />
                ) : !data ? (
                  <div className="grid grid-cols-4 gap-4 p-4">
                    {[0, 1, 2, 3, 4, 5, 6, 7].map((place) => (
                      <Loading key={place} label="Loading pages" className="h-[220px] opacity-40" />
                    ))}
                  </div>
                ) : pages.length === 0 ? (
                  <Empty title="No pages yet">
                    <p>Files that are being taken in appear here one by one.</p>
                  </Empty>
                ) : (
                  <>
                    <Filters pages={pages} value={filter} onChange={setFilter} />
                    <PageGrid
                      pages={shown}
                      current={current?.id}
                      version={version}
                      onChoose={choose}
                      onOpen={(page) => go(`${base}/pages/${page.id}`)}
                      onColumns={setColumns}
                    />
                  </>
                )}
              </main>
              <aside
                aria-label="Measured"
                className="w-[272px] shrink-0 overflow-y-auto border-l border-strong-line bg-board"
              >
                {current && (
                  <Measured
                    page={current}
                    pages={pages}
                    action={
                      current.original && (
                        <Button onClick={toggleAside} disabled={setAside.isPending} className="w-full">
                          {current.aside ? 'Put back' : 'Hold aside'}
                        </Button>
                      )
                    }
                  />
                )}
              </aside>
            </>
          )}
        </div>
      )}
    </div>
  );
}

const NONE: PageRow[] = [];
