import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { Link, useLocation } from 'wouter';
import { useMay } from '@/api/people';
import { type At, shelfQuery, stacksQuery } from '@/api/queries';
import { useRetry } from '@/api/work';
import { addressOf, askedIn } from '@/engine/search/asked';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { INPUT } from '@/ui/Field';
import { Empty, Failed, Loading } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { count } from '@/words/figures';
import { OrderSlips } from './OrderSlips';
import { StackCards, StackRows } from './StackRows';

const STATES: { at: At; label: string }[] = [
  { at: 'everything', label: 'everything' },
  { at: 'waiting', label: 'needs mending' },
  { at: 'working', label: 'being worked on' },
  { at: 'unbound', label: 'ready to bind' },
  { at: 'bound', label: 'bound' },
];
type Laid = 'rows' | 'cards';

/** All stacks, each with its fore-edge, its first pages and what waits in it; order slips one press away. */
export function ShelfView({ user }: { user: string }) {
  const [, go] = useLocation();
  const main = useView<HTMLElement>('Shelf');
  const [at, setAt] = useState<At>('everything');
  const [named, setNamed] = useState('');
  const [{ laid }, setLaid] = useKept<{ laid: Laid }>('shelf', { laid: 'rows' });
  const query = useInfiniteQuery(stacksQuery(at, useDeferredValue(named.trim())));
  const { data: shelf } = useQuery(shelfQuery);
  const stacks = query.data?.pages.flat();
  const retry = useRetry();
  const work = useMay('work');
  const failed = stacks?.reduce((sum, { counts }) => sum + counts.failed, 0) ?? 0;
  useCommands([
    { name: 'new', label: 'New stack', key: 'n', subject: 'Go to', enabled: work, perform: () => go('/new') },
    {
      name: 'find',
      label: 'Find a stack, or search everything',
      key: '/',
      subject: 'Go to',
      perform: () => document.querySelector<HTMLElement>('[data-find]')?.focus(),
    },
  ]);
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar user={user} />
      <main
        ref={main}
        id="main"
        tabIndex={-1}
        className="min-h-0 flex-1 overflow-y-auto px-6 py-5 outline-none lg:px-8"
      >
        <h1 className="sr-only">Shelf</h1>
        <div className="mx-auto flex max-w-[100rem] flex-col gap-5">
          <div className="flex flex-wrap items-stretch gap-3">
            <input
              type="search"
              data-find
              aria-label="Find a stack by its name, or search everything"
              aria-keyshortcuts="/"
              placeholder="Find a stack by its name; Enter searches every word of every page"
              value={named}
              onChange={({ target }) => setNamed(target.value)}
              onKeyDown={(event) => {
                if (event.key === 'Escape') named ? setNamed('') : event.currentTarget.blur();
                if (event.key === 'Enter' && named.trim()) go(addressOf({ ...askedIn(''), q: named.trim() }));
              }}
              className={`${INPUT} min-h-11 flex-1 basis-64 px-4`}
            />
            {work && (
              <Button kind="main" asChild shortcut="n" className="min-h-11">
                <Link href="/new">New stack</Link>
              </Button>
            )}
          </div>
          <OrderSlips />
          <div className="flex flex-col gap-6 lg:flex-row">
            <nav aria-label="What waits" className="w-full shrink-0 lg:w-48">
              <h2 className="mb-1 font-semibold">What waits</h2>
              <ul>
                {STATES.map((state) => (
                  <li key={state.at}>
                    <button
                      type="button"
                      aria-pressed={at === state.at}
                      onClick={() => setAt(state.at)}
                      className={`flex min-h-8 w-full items-center justify-between gap-3 rounded-md px-2 text-left hover:bg-hover ${at === state.at ? 'bg-accent-pale font-semibold' : 'text-soft'}`}
                    >
                      {state.label}
                      <span className="font-mono text-small font-normal">{shelf ? count(shelf[state.at]) : ''}</span>
                    </button>
                  </li>
                ))}
              </ul>
              <div className="mt-4 hidden lg:block">
                <Choice
                  label="How stacks are shown"
                  value={laid}
                  onChange={(next) => setLaid({ laid: next })}
                  options={[
                    { value: 'rows', label: 'Rows' },
                    { value: 'cards', label: 'Cards' },
                  ]}
                />
              </div>
              {work && failed > 0 && (
                <Button
                  className="mt-4"
                  size="small"
                  disabled={retry.isPending}
                  onClick={() => retry.mutate('everything')}
                >
                  Try {failed === 1 ? '1 failed page' : `${failed} failed pages`} again
                </Button>
              )}
            </nav>
            <section aria-label="Stacks" className="min-w-0 flex-1">
              {stacks ? (
                stacks.length ? (
                  <>
                    {laid === 'rows' ? <StackRows stacks={stacks} /> : <StackCards stacks={stacks} />}
                    {query.hasNextPage && (
                      <div className="flex justify-center py-5">
                        <Button disabled={query.isFetchingNextPage} onClick={() => query.fetchNextPage()}>
                          {query.isFetchingNextPage ? 'Loading …' : 'Show older stacks'}
                        </Button>
                      </div>
                    )}
                  </>
                ) : named || at !== 'everything' ? (
                  <Empty title="No stack is like that">
                    {named.trim() && (
                      <Button kind="main" asChild>
                        <Link href={addressOf({ ...askedIn(''), q: named.trim() })}>Search everything for it</Link>
                      </Button>
                    )}
                    <Button
                      onClick={() => {
                        setNamed('');
                        setAt('everything');
                      }}
                    >
                      Show everything
                    </Button>
                  </Empty>
                ) : (
                  <Empty title="The shelf is empty">
                    <p>
                      A stack holds the pages that are worked on together. It begins with a capture from a station, or
                      with files.
                    </p>
                    {work && (
                      <Button kind="main" asChild>
                        <Link href="/new">New stack</Link>
                      </Button>
                    )}
                  </Empty>
                )
              ) : query.error ? (
                <Failed message={query.error.message} retry={() => query.refetch()} />
              ) : (
                [0, 1, 2].map((place) => <Loading key={place} label="Loading stacks" className="mb-3 h-24" />)
              )}
            </section>
          </div>
        </div>
      </main>
    </div>
  );
}
