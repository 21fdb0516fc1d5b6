import { useInfiniteQuery } from '@tanstack/react-query';
import { type KeyboardEvent, useDeferredValue, useEffect, useId, useRef, useState } from 'react';
import { useLocation, useSearch } from 'wouter';
import { searchQuery } from '@/api/search';
import type { SearchAnswer } from '@/api/types';
import { type Asked, addressOf, askedIn, filtersOf } from '@/engine/search/asked';
import { type Hit, hitsOf } from '@/engine/search/hits';
import { useCommands } from '@/hooks/useCommands';
import { useView } from '@/hooks/useView';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { Empty, Failed, Loading } from '@/ui/States';
import { Title, TopBar } from '@/ui/TopBar';
import { count } from '@/words/figures';
import { foundWords } from '@/words/search';
import { Among } from './Among';
import { PageRow, ThingRow } from './Hits';

/** Search across everything: what stacks and documents are called, and every word on every page; opened from the keyboard. */
export function SearchView({ user }: { user: string }) {
  const main = useView<HTMLElement>('Search');
  const [, go] = useLocation();
  const asked = askedIn(useSearch());
  const put = (some: Partial<Asked>) => go(addressOf({ ...asked, ...some }), { replace: true });
  const query = useInfiniteQuery(searchQuery(useSteady(asked)));
  const answers = asked.q.trim() ? query.data?.pages : undefined;
  /** The question all of whose things are shown. */
  const [opened, setOpened] = useState('');
  const { things, pages } = hitsOf(answers ?? [], opened === asked.q);
  const hits = [...things, ...pages];
  const [hand, setHand] = useState(0);
  const at = Math.min(hand, hits.length - 1);
  const field = useRef<HTMLInputElement>(null);
  const id = useId();
  useEffect(() => field.current?.focus(), []);
  useEffect(() => {
    document.getElementById(`${id}${at}`)?.scrollIntoView({ block: 'nearest' });
    if (at >= hits.length - 2 && query.hasNextPage && !query.isFetchingNextPage) query.fetchNextPage();
  }, [id, at, hits.length, query.hasNextPage, query.isFetchingNextPage, query.fetchNextPage]);
  useCommands([
    { name: 'find', label: 'Ask something else', key: '/', subject: 'Go to', perform: () => field.current?.select() },
    { name: 'back', label: 'Back to the shelf', key: 'Escape', subject: 'Go to', perform: () => go('/') },
  ]);
  const take = (hit: Hit) => ('rest' in hit ? setOpened(asked.q) : go(hit.href));
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 5, PageUp: -5 }[event.key];
    const hit = hits[at];
    if (step) {
      event.preventDefault();
      setHand(Math.max(0, Math.min(hits.length - 1, at + step)));
    } else if (event.key === 'Enter' && hit) {
      event.preventDefault();
      take(hit);
    } else if (event.key === 'Escape') {
      event.preventDefault();
      if (asked.q) put({ q: '' });
      else go('/');
    }
  };
  const first = answers?.[0];
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <TopBar user={user} title={<Title>Search</Title>} />
      <main
        ref={main}
        id="main"
        tabIndex={-1}
        className="min-h-0 flex-1 overflow-y-auto px-6 py-5 outline-none lg:px-8"
      >
        <search className="mx-auto flex max-w-[76rem] flex-col gap-4">
          <input
            ref={field}
            type="search"
            role="combobox"
            aria-label="Search everything"
            aria-expanded={hits.length > 0}
            aria-controls={`${id}list`}
            aria-activedescendant={hits.length ? `${id}${at}` : undefined}
            placeholder="Words on any page, titles, identifiers, boxes"
            spellCheck={false}
            autoComplete="off"
            value={asked.q}
            onChange={({ target }) => {
              setHand(0);
              put({ q: target.value });
            }}
            onKeyDown={onKey}
            className={`${INPUT} min-h-11 px-4`}
          />
          <Among asked={asked} onChange={put} />
          <p role="status" className="text-small text-soft">
            {first && (
              <>
                {foundWords(first)}
                {first.more && ': the newest come first. Add a word or a filter to find fewer.'}
                {first.also.length > 0 && ` · also looked for ${first.also.join(', ')}`}
              </>
            )}
          </p>
          {!asked.q.trim() ? (
            <Help />
          ) : query.error ? (
            <Failed message={query.error.message} retry={() => query.refetch()} />
          ) : !first ? (
            [0, 1, 2].map((place) => <Loading key={place} label="Searching" className="h-24" />)
          ) : hits.length === 0 ? (
            <Nothing asked={asked} put={put} />
          ) : (
            <div id={`${id}list`} role="listbox" aria-label="Found" className="flex flex-col gap-5">
              {[things, pages].map(
                (some, group) =>
                  some.length > 0 && (
                    // biome-ignore lint/a11y/useSemanticElements: a group of options, not of fields
                    <div
                      key={group ? 'pages' : 'things'}
                      role="group"
                      aria-label={group ? 'Pages' : 'By name or description'}
                      className="flex flex-col"
                    >
                      <p aria-hidden="true" className="pb-1 font-semibold">
                        {group ? 'Pages' : 'By name or description'}
                      </p>
                      {some.map((hit, place) => {
                        const number = place + (group ? things.length : 0);
                        return (
                          // biome-ignore lint/a11y/useKeyWithClickEvents: the field has the keys
                          <div
                            key={hit.id}
                            id={`${id}${number}`}
                            role="option"
                            tabIndex={-1}
                            aria-selected={number === at}
                            onClick={() => take(hit)}
                            className={`cursor-pointer border-t border-hairline px-3 py-2.5 outline-none hover:bg-hover ${number === at ? 'bg-accent-pale shadow-[inset_3px_0_0_var(--color-accent)]' : ''}`}
                          >
                            <HitRow hit={hit} />
                          </div>
                        );
                      })}
                    </div>
                  ),
              )}
            </div>
          )}
          {first && <More shown={pages.length} answer={first} fetching={query.isFetchingNextPage} />}
        </search>
      </main>
    </div>
  );
}

/** The question once it is typed; the filters at once. */
function useSteady(asked: Asked): Asked {
  const q = useDeferredValue(asked.q);
  return { ...asked, q };
}

function HitRow({ hit }: { hit: Hit }) {
  if ('rest' in hit) return <span className="font-semibold text-accent">Show {count(hit.rest)} more</span>;
  return 'thing' in hit ? <ThingRow thing={hit.thing} /> : <PageRow page={hit.page} />;
}

function More({ shown, answer, fetching }: { shown: number; answer: SearchAnswer; fetching: boolean }) {
  if (fetching) return <Loading label="Loading more" className="h-16" />;
  if (shown >= answer.most)
    return <p className="py-3 text-soft">These are the first {count(answer.most)}: add a word to find the others.</p>;
  return null;
}

function Nothing({ asked, put }: { asked: Asked; put: (some: Partial<Asked>) => void }) {
  const filters = filtersOf(asked);
  return (
    <Empty title="Nothing holds that">
      <div className="flex flex-wrap justify-center gap-3">
        {!asked.forgiving && <Button onClick={() => put({ forgiving: true })}>Forgive a slip in each word</Button>}
        {filters > 0 && (
          <Button
            onClick={() =>
              put({ kind: 'everything', at: 'everything', collection: null, station: '', first: 0, last: 0 })
            }
          >
            Search without {filters === 1 ? 'the filter' : `the ${filters} filters`}
          </Button>
        )}
      </div>
    </Empty>
  );
}

const WAYS: readonly [string, string][] = [
  ['lamp keeper', 'both words, anywhere on a page'],
  ['"lamp room"', 'in this order'],
  ['lamp*', 'words that begin so'],
  ['lamp OR lantern', 'either'],
  ['lamp NEAR oil', 'within ten words of each other; NEAR/3 within three'],
  ['lamp -oil', 'pages without a word'],
  ['SL/27/114', 'an identifier'],
];

function Help() {
  return (
    <dl className="grid max-w-[44rem] grid-cols-[max-content_1fr] gap-x-6 gap-y-1.5 pt-2">
      {WAYS.map(([typed, means]) => (
        <div key={typed} className="contents">
          <dt className="font-mono text-small">{typed}</dt>
          <dd className="text-soft">{means}</dd>
        </div>
      ))}
    </dl>
  );
}
