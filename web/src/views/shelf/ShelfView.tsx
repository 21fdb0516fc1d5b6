import { useQuery } from '@tanstack/react-query';
import { Link, useLocation } from 'wouter';
import { stacksQuery } from '../../api/queries';
import type { Stack } from '../../api/types';
import { useCommands } from '../../commands/useCommands';
import { counted, when } from '../../format';
import { Bar } from '../../parts/Bar';
import { Button } from '../../parts/Button';
import { ForeEdge } from '../../parts/ForeEdge';
import { Empty, Failed, Loading } from '../../parts/States';
import { TopBar } from '../../parts/TopBar';

/** All stacks, each with its small fore-edge and what waits in it. */
export function ShelfView({ user }: { user: string }) {
  const { data: stacks, error, refetch } = useQuery(stacksQuery);
  const [, go] = useLocation();
  useCommands([{ name: 'new', label: 'New stack', key: 'n', perform: () => go('/new') }]);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user}>
        <Button kind="main" asChild>
          <Link href="/new">New stack</Link>
        </Button>
      </TopBar>
      <main className="min-h-0 flex-1 overflow-y-auto bg-board">
        {stacks ? (
          stacks.length ? (
            <ul className="mx-auto grid max-w-[1500px] grid-cols-[repeat(auto-fill,minmax(400px,1fr))] gap-4 p-5">
              {stacks.map((stack) => (
                <ShelvedStack key={stack.id} stack={stack} />
              ))}
            </ul>
          ) : (
            <Empty title="The shelf is empty">
              <p className="mb-4">
                A stack holds the pages you work on together: scans, multi-page files, PDFs of scans.
              </p>
              <Button kind="main" asChild>
                <Link href="/new">New stack</Link>
              </Button>
            </Empty>
          )
        ) : error ? (
          <Failed message={error.message} retry={() => refetch()} />
        ) : (
          <div className="mx-auto grid max-w-[1500px] grid-cols-[repeat(auto-fill,minmax(400px,1fr))] gap-4 p-5">
            {[0, 1, 2].map((place) => (
              <Loading key={place} label="Loading stacks" className="h-[196px]" />
            ))}
          </div>
        )}
      </main>
    </div>
  );
}

function ShelvedStack({ stack }: { stack: Stack }) {
  const { counts } = stack;
  const settled = counts.ready + counts.aside + counts.failed;
  const working = settled < counts.pages;
  return (
    <li>
      <Link
        href={`/stacks/${stack.id}`}
        className="flex h-[196px] gap-4 rounded-md border border-line bg-raised p-4 hover:border-strong-line"
      >
        <div aria-hidden="true" className="w-[120px] shrink-0 rounded-sm bg-surround p-2">
          <ForeEdge lines={stack.edge} className="h-full w-full" />
        </div>
        <div className="flex min-w-0 flex-1 flex-col">
          <h2 className="line-clamp-2 text-lg font-semibold break-words" title={stack.name}>
            {stack.name}
          </h2>
          <p className="text-soft-ink">{when(stack.created_at)}</p>
          <dl className="mt-auto grid grid-cols-[1fr_auto] gap-x-4 font-mono text-sm">
            <Count label="Pages" value={counts.pages} />
            <Count label="Ready" value={counts.ready} />
            <Count label="Aside" value={counts.aside} />
            <Count label="Failed" value={counts.failed} />
          </dl>
          <div className="mt-2 h-5">
            {working ? (
              <Bar label="Pages settled" value={settled} max={counts.pages} className="mt-2" />
            ) : (
              <p className="text-xs text-soft-ink">
                {counts.pages === 0
                  ? 'no pages yet'
                  : stack.documents
                    ? `bound ${stack.documents === 1 ? 'once' : counted(stack.documents, 'time')}`
                    : 'not bound yet'}
              </p>
            )}
          </div>
        </div>
      </Link>
    </li>
  );
}

function Count({ label, value }: { label: string; value: number }) {
  return (
    <>
      <dt className="font-sans text-soft-ink">{label}</dt>
      <dd className="text-right">{value}</dd>
    </>
  );
}
