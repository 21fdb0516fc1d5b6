import { useQuery } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useState } from 'react';
import { Link, useLocation, useSearch } from 'wouter';
import { useMay } from '@/api/people';
import { shelfQuery } from '@/api/shelf';
import type { Stack } from '@/api/types';
import { useRetry } from '@/api/work';
import { addressOf, askedIn } from '@/engine/search/asked';
import { ALL, type ShelfAsked, searchOf, shelfAddress, shelfAskedIn } from '@/engine/shelf/asked';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Empty } from '@/ui/States';
import { TopBar } from '@/ui/TopBar';
import { Chosen } from './Chosen';
import { CollectionsSheet } from './CollectionsSheet';
import { ListHead } from './ListHead';
import { OrderSlips } from './OrderSlips';
import { Collections, KeptViews, Waiting } from './ShelfParts';
import { type Laid, StackList } from './StackList';

/** All stacks, each with its fore-edge, its first pages and what waits in it; order slips one press away. */
export function ShelfView({ user }: { user: string }) {
  const [, go] = useLocation();
  const main = useView<HTMLElement>('Shelf');
  const asked = shelfAskedIn(useSearch());
  const onAsk = (some: Partial<ShelfAsked>) => go(shelfAddress({ ...asked, ...some }), { replace: true });
  const steady = useDeferredValue(asked.named.trim());
  const [{ laid }, setLaid] = useKept<{ laid: Laid }>('shelf', { laid: 'rows' });
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const onChoose = useCallback(
    (id: number, value: boolean) =>
      setChosen((before) => {
        const next = new Set(before);
        value ? next.add(id) : next.delete(id);
        return next;
      }),
    [],
  );
  const [told, setTold] = useState<{ stacks: readonly Stack[]; count: number }>();
  // The list first: counting all of it takes the server longer.
  const { data: shelf } = useQuery({ ...shelfQuery, enabled: told !== undefined });
  const [editing, setEditing] = useState(false);
  const retry = useRetry();
  const work = useMay('work');
  const failed = told?.stacks.reduce((sum, { counts }) => sum + counts.failed, 0) ?? 0;
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
    <div className="flex h-full flex-col">
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
              value={asked.named}
              onChange={({ target }) => onAsk({ named: target.value })}
              onKeyDown={(event) => {
                if (event.key === 'Escape') asked.named ? onAsk({ named: '' }) : event.currentTarget.blur();
                if (event.key === 'Enter' && asked.named.trim())
                  go(addressOf({ ...askedIn(''), q: asked.named.trim() }));
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
            <nav
              aria-label="Parts of the shelf"
              className="max-h-72 w-full shrink-0 overflow-y-auto lg:sticky lg:top-0 lg:max-h-[calc(100vh-6rem)] lg:w-56 lg:self-start"
            >
              <Waiting asked={asked} onAsk={onAsk} shelf={shelf} />
              {work && failed > 0 && (
                <Button
                  size="small"
                  className="mb-4"
                  disabled={retry.isPending}
                  onClick={() => retry.mutate('everything')}
                >
                  Try {failed === 1 ? '1 failed page' : `${failed} failed pages`} again
                </Button>
              )}
              <KeptViews asked={asked} onAsk={onAsk} />
              <Collections asked={asked} onAsk={onAsk} shelf={shelf}>
                {work && (
                  <Button size="small" kind="quiet" aria-label="Edit collections" onClick={() => setEditing(true)}>
                    Edit …
                  </Button>
                )}
              </Collections>
            </nav>
            <div className="min-w-0 flex-1">
              {chosen.size > 0 ? (
                <Chosen chosen={chosen} closed={asked.at === 'closed'} onChosen={setChosen} />
              ) : (
                <ListHead
                  asked={asked}
                  onAsk={onAsk}
                  shelf={shelf}
                  count={told?.count ?? 0}
                  laid={laid}
                  onLaid={(next) => setLaid({ laid: next })}
                />
              )}
              <StackList
                asked={{ ...asked, named: steady }}
                laid={laid}
                scroll={main}
                chosen={chosen}
                onChoose={work ? onChoose : undefined}
                none={<None asked={asked} work={work} onAsk={onAsk} />}
                onTold={(stacks, count) => setTold({ stacks, count })}
              />
            </div>
          </div>
        </div>
        {editing && <CollectionsSheet onClose={() => setEditing(false)} />}
      </main>
    </div>
  );
}

type NoneProps = { asked: ShelfAsked; work: boolean; onAsk: (some: Partial<ShelfAsked>) => void };

function None({ asked, work, onAsk }: NoneProps) {
  const named = asked.named.trim();
  if (searchOf({ ...asked, sort: ALL.sort }))
    return (
      <Empty title="No stack is like that">
        {named && (
          <Button kind="main" asChild>
            <Link href={addressOf({ ...askedIn(''), q: named })}>Search everything for it</Link>
          </Button>
        )}
        <Button onClick={() => onAsk(ALL)}>Show everything</Button>
      </Empty>
    );
  return (
    <Empty title="The shelf is empty">
      <p>
        A stack holds the pages that are worked on together. It begins with a capture from a station, or with files.
      </p>
      {work && (
        <Button kind="main" asChild>
          <Link href="/new">New stack</Link>
        </Button>
      )}
    </Empty>
  );
}
