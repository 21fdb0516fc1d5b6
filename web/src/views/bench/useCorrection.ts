import { useCallback, useEffect, useRef, useState } from 'react';
import type { Correction, Wish } from '@/api/bench';
import type { Doing, Page, PageRow } from '@/api/types';

/** Hands that nudge are still when nothing was set for so long. */
const STILL_MS = 500;
/** A page that has not come back as it was sent after so long was refused, or somebody else was quicker. */
const REFUSED_MS = 3000;

type Send = (doing: Doing, options?: { onSettled?: () => void }) => void;

/**
 * What is being set on a page and not saved yet, over what it has. It is saved when hands are still, as one change that can
 * be undone; until the saved page has come back it goes on standing here, so that nothing jumps.
 */
export function useCorrection(page: PageRow, data: Page | undefined, send: Send) {
  const [wish, setWish] = useState<Wish>({});
  const waiting = useRef<{ wish: Wish; timer?: ReturnType<typeof setTimeout> }>({ wish: {} });
  const [sent, setSent] = useState<Wish>();

  const flush = useCallback(() => {
    clearTimeout(waiting.current.timer);
    const { split, ...correction } = waiting.current.wish;
    waiting.current = { wish: {} };
    const settled = (part: Wish) => ({ onSettled: () => setSent((now) => ({ ...now, ...part })) });
    if (Object.keys(correction).length) send({ do: 'correct', pages: [page.id], correction }, settled(correction));
    if (split) send({ do: 'split', page: page.id, ...split }, settled({ split }));
  }, [page.id, send]);

  const set = useCallback(
    (part: Wish, now = false) => {
      setWish((before) => ({ ...before, ...part }));
      waiting.current.wish = { ...waiting.current.wish, ...part };
      clearTimeout(waiting.current.timer);
      if (now) flush();
      else waiting.current.timer = setTimeout(() => latest.current(), STILL_MS);
    },
    [flush],
  );
  const latest = useRef(flush);
  useEffect(() => {
    latest.current = flush;
  });
  // Whoever leaves the page leaves it saved.
  useEffect(() => () => latest.current(), []);

  // The page as saved has come, or was refused: what was sent stands no longer for itself.
  const come = sent && data && isSaved(sent, data.override);
  useEffect(() => {
    if (!sent) return;
    const settle = () => {
      setWish((now) => without(now, sent));
      setSent(undefined);
    };
    if (come) return settle();
    const refused = setTimeout(settle, REFUSED_MS);
    return () => clearTimeout(refused);
  }, [sent, come]);

  return { wish, set, flush };
}

/** What has been set since is kept: only values that were sent go. */
function without(wish: Wish, sent: Wish): Wish {
  return Object.fromEntries(Object.entries(wish).filter(([name, value]) => value !== sent[name as keyof Wish])) as Wish;
}

/** Whether a page has everything that was sent for it. */
export function isSaved(sent: Wish, override: Correction & { split?: unknown }): boolean {
  return Object.entries(sent).every(([name, value]) => same(value, override[name as keyof Wish]));
}

function same(a: unknown, b: unknown): boolean {
  if (a == null || b == null) return a == null && b == null;
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b) < 1e-6;
  if (typeof a !== 'object' || typeof b !== 'object') return a === b;
  return Object.entries(a).every(([key, value]) => same(value, (b as Record<string, unknown>)[key]));
}
