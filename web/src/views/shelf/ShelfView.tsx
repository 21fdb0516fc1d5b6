import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useLocation } from 'wouter';
import { slipsQuery, useSlips } from '@/api/intake';
import { useMay } from '@/api/people';
import { stacksQuery } from '@/api/queries';
import type { Stack } from '@/api/types';
import { useRetry } from '@/api/work';
import { useCommands } from '@/hooks/useCommands';
import { Bar } from '@/ui/Bar';
import { Button } from '@/ui/Button';
import { ForeEdge } from '@/ui/ForeEdge';
import { Empty, Failed, Loading } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { counted, when } from '@/words/figures';

/** All stacks, each with its small fore-edge and what waits in it. */
export function ShelfView({ user }: { user: string }) {
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery(stacksQuery);
  const stacks = data?.pages.flat();
  const [, go] = useLocation();
  const retry = useRetry();
  const [people, work] = [useMay('people'), useMay('work')];
  const failed = stacks?.reduce((sum, { counts }) => sum + counts.failed, 0) ?? 0;
  useCommands([{ name: 'new', label: 'New stack', key: 'n', enabled: work, perform: () => go('/new') }]);
  return (
    <div className="flex h-full flex-col">
      <TopBar user={user}>
        {work && failed > 0 && (
          <Button disabled={retry.isPending} onClick={() => retry.mutate('everything')}>
            Try {failed === 1 ? '1 failed page' : `${failed} failed pages`} again
          </Button>
        )}
        <Button kind="quiet" asChild>
          <Link href="/bin">Bin</Link>
        </Button>
        {people && (
          <Button kind="quiet" asChild>
            <Link href="/people">People</Link>
          </Button>
        )}
        <Button asChild>
          <Link href="/treatments">Treatments</Link>
        </Button>
        {work && (
          <Button kind="main" asChild>
            <Link href="/new">New stack</Link>
          </Button>
        )}
      </TopBar>
      <main className="min-h-0 flex-1 overflow-y-auto bg-ground">
        {stacks ? (
          stacks.length ? (
            <>
              <OrderSlips />
              <ul className="mx-auto grid max-w-[1500px] grid-cols-[repeat(auto-fill,minmax(400px,1fr))] gap-4 p-5">
                {stacks.map((stack) => (
                  <ShelvedStack key={stack.id} stack={stack} />
                ))}
              </ul>
              {hasNextPage && (
                <div className="flex justify-center pb-5">
                  <Button disabled={isFetchingNextPage} onClick={() => fetchNextPage()}>
                    {isFetchingNextPage ? 'Loading …' : 'Show older stacks'}
                  </Button>
                </div>
              )}
            </>
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

/** Saved capture jobs: one press starts a new stack with each. */
function OrderSlips() {
  const { data: slips = [] } = useQuery(slipsQuery);
  const { start, drop } = useSlips();
  const [, go] = useLocation();
  if (slips.length === 0) return null;
  return (
    <section aria-label="Order slips" className="mx-auto flex max-w-[1500px] flex-wrap items-center gap-2 px-5 pt-5">
      <h2 className="mr-1 text-soft">Order slips</h2>
      {slips.map((slip) => (
        <span key={slip.id} className="flex">
          <Button
            disabled={start.isPending || slip.station === null}
            className="rounded-r-none!"
            title={`${slip.station_name}, ${slip.settings.ppi} ppi, ${slip.settings.colour}; ${slip.treatment}; named ${slip.naming}`}
            onClick={() => start.mutate(slip.id, { onSuccess: ({ stack }) => go(`/stacks/${stack}/intake`) })}
          >
            {slip.name} <span className="text-small text-soft">{slip.station_name}</span>
          </Button>
          <Button
            className="rounded-l-none! border-l-0! px-2!"
            aria-label={`Throw the order slip ${slip.name} away`}
            onClick={() => drop.mutate(slip.id)}
          >
            ×
          </Button>
        </span>
      ))}
    </section>
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
        className="flex h-[196px] gap-4 rounded-md border border-hairline bg-panel p-4 hover:border-hairline"
      >
        <div aria-hidden="true" className="w-[120px] shrink-0 rounded-sm bg-surround p-2">
          <ForeEdge lines={stack.edge} className="h-full w-full" />
        </div>
        <div className="flex min-w-0 flex-1 flex-col">
          <h2 className="line-clamp-2 text-title font-semibold break-words" title={stack.name}>
            {stack.name}
          </h2>
          <p className="text-soft">{when(stack.created_at)}</p>
          <dl className="mt-auto grid grid-cols-[1fr_auto] gap-x-4 font-mono ">
            <Count label="Pages" value={counts.pages} />
            <Count label="Ready" value={counts.ready} />
            <Count label="Aside" value={counts.aside} />
            <Count label="Failed" value={counts.failed} />
          </dl>
          <div className="mt-2 h-5">
            {working ? (
              <Bar label="Pages settled" value={settled} max={counts.pages} className="mt-2" />
            ) : (
              <p className="text-small text-soft">
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
      <dt className="font-sans text-soft">{label}</dt>
      <dd className="text-right">{value}</dd>
    </>
  );
}
