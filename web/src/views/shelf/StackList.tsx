import { useQueries, useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
} from 'react';
import { stacksQuery } from '@/api/shelf';
import type { Stack } from '@/api/types';
import { type ShelfAsked, searchOf } from '@/engine/shelf/asked';
import { WINDOW, windowsOf } from '@/engine/shelf/windows';
import { useSize } from '@/hooks/useSize';
import { Failed, Loading } from '@/ui/States';
import { type OnChoose, StackCard, StackRow } from './StackRows';

export type Laid = 'rows' | 'cards';
export type StackListProps = {
  asked: ShelfAsked;
  laid: Laid;
  /** What scrolls, with the list in it. */
  scroll: RefObject<HTMLElement | null>;
  chosen: ReadonlySet<number>;
  /** Nothing where nobody may choose. */
  onChoose?: OnChoose | undefined;
  /** What is shown where no stack is wanted. */
  none: ReactNode;
  /** The stacks that are loaded, and how many there are. */
  onTold: (stacks: readonly Stack[], count: number) => void;
};

const HEIGHTS: Record<Laid, number> = { rows: 105, cards: 196 };
const CARD = 340;

/** The stacks that are wanted: only those in view are drawn, and asked for again. Arrow keys go from one to the next. */
export function StackList({ asked, laid, scroll, chosen, onChoose, none, onTold }: StackListProps) {
  const [list, [width]] = useSize<HTMLElement>();
  const [above, setAbove] = useState(0);
  const across = laid === 'cards' ? Math.max(1, Math.floor(width / CARD)) : 1;
  const { data: head } = useQuery(stacksQuery(asked, 0));
  const total = head?.count;
  const lines = useVirtualizer({
    count: Math.ceil((total ?? 0) / across),
    getScrollElement: () => scroll.current,
    estimateSize: () => HEIGHTS[laid],
    overscan: 4,
    scrollMargin: above,
  });
  // Order slips, and what is chosen, come and go above it.
  useLayoutEffect(() => {
    if (!list.current || !scroll.current) return;
    const top = list.current.getBoundingClientRect().top - scroll.current.getBoundingClientRect().top;
    setAbove(Math.round(top + scroll.current.scrollTop));
  });
  const seen = lines.getVirtualItems();
  const parts = windowsOf(seen.flatMap(({ index }) => [index * across, index * across + across - 1]));
  const found = useQueries({ queries: parts.map((part) => stacksQuery(asked, part)) });
  const stacks = new Map(
    found.flatMap(({ data }, place) =>
      (data?.stacks ?? []).map((stack, at) => [(parts[place] ?? 0) * WINDOW + at, stack] as const),
    ),
  );
  const first = found[0];
  const wanted = searchOf(asked);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another wish is read from its top
  useLayoutEffect(() => {
    scroll.current?.scrollTo({ top: 0 });
  }, [wanted, laid]);
  const key = [...stacks.values()].map(({ id, change }) => `${id} ${change}`).join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: told when one of them is another
  useEffect(() => {
    if (total !== undefined) onTold([...stacks.values()], total);
  }, [key, total]);
  const next = useRef<number>(undefined);
  useEffect(() => {
    const link = next.current === undefined ? null : list.current?.querySelector(`[data-place="${next.current}"]`);
    if (!(link instanceof HTMLElement)) return;
    next.current = undefined;
    link.focus();
  });
  const onKey = (event: KeyboardEvent) => {
    const here = (event.target as HTMLElement).closest<HTMLElement>('[data-place]')?.dataset.place;
    const step = { ArrowDown: across, ArrowUp: -across, PageDown: 6 * across, PageUp: -6 * across }[event.key];
    const far = { Home: 0, End: (total ?? 1) - 1 }[event.key];
    if (here === undefined || (step === undefined && far === undefined) || !total) return;
    event.preventDefault();
    next.current = Math.max(0, Math.min(total - 1, far ?? Number(here) + (step ?? 0)));
    lines.scrollToIndex(Math.floor(next.current / across));
    setHand(next.current);
  };
  const [, setHand] = useState(0);
  return (
    <section ref={list} aria-label="Stacks" onKeyDown={onKey} className="min-w-0">
      {first?.error ? (
        <Failed message={first.error.message} retry={() => first.refetch()} />
      ) : total === undefined ? (
        [0, 1, 2].map((place) => <Loading key={place} label="Loading stacks" className="mb-3 h-24" />)
      ) : total === 0 ? (
        none
      ) : (
        <ul className="relative" style={{ height: lines.getTotalSize() }}>
          {seen.flatMap((line) =>
            Array.from({ length: across }, (_, at) => line.index * across + at)
              .filter((place) => place < total)
              .map((place) => {
                const stack = stacks.get(place);
                const column = place % across;
                return (
                  <li
                    key={place}
                    {...(column === 0 ? { ref: lines.measureElement, 'data-index': line.index } : {})}
                    aria-setsize={total}
                    aria-posinset={place + 1}
                    className="absolute border-b border-hairline"
                    style={{ top: line.start - above, left: `${(100 * column) / across}%`, width: `${100 / across}%` }}
                  >
                    {!stack ? (
                      <Loading label="Loading a stack" className={laid === 'rows' ? 'my-3 h-20' : 'my-3 h-40'} />
                    ) : laid === 'rows' ? (
                      <StackRow stack={stack} place={place} chosen={chosen.has(stack.id)} onChoose={onChoose} />
                    ) : (
                      <StackCard stack={stack} place={place} />
                    )}
                  </li>
                );
              }),
          )}
        </ul>
      )}
    </section>
  );
}
