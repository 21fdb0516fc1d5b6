import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useSyncExternalStore } from 'react';
import { type Hands, handsOf } from '@/engine/changes/hands';
import { pagesQuery, StackFeed } from '@/engine/live/feed';
import { notify } from '@/engine/notices';

/** The pages of a stack, kept up to date, and the hands that do something to them. */
export function useStackPages(stackId: number) {
  const client = useQueryClient();
  const hands = handsOf(stackId);
  const feed = useMemo(() => new StackFeed(client, stackId), [client, stackId]);
  const query = useQuery({
    ...pagesQuery(client, stackId),
    // The feed asks; the engine's sign of life comes with it.
    refetchInterval: ({ state }) => (state.data?.engine === false ? 2000 : 10_000),
    refetchOnWindowFocus: false,
  });
  useEffect(() => {
    hands.look = () => feed.look();
    hands.tell = notify;
    feed.onCount = (count) => hands.seen(count);
    feed.open();
    return () => feed.close();
  }, [feed, hands]);
  const change = query.data?.change;
  useEffect(() => {
    if (change !== undefined) hands.seen(change);
  }, [hands, change]);
  const lost = useSyncExternalStore(feed.subscribe, feed.lost);
  return { ...query, lost, hands };
}

/** Whether something is on its way to the server, and why it waits. */
export function useBusy(hands: Hands): { busy: boolean; held: string } {
  const { jobs, held } = useSyncExternalStore(hands.subscribe, hands.snapshot);
  return { busy: jobs.length > 0, held };
}
