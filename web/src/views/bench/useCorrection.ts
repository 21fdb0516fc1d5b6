import { useCallback, useEffect, useRef, useState } from 'react';
import type { Correction } from '../../api/bench';
import type { Doing, Page, PageRow } from '../../api/types';

/** Hands that nudge are still when nothing was set for so long. */
const STILL_MS = 500;

type Send = (doing: Doing, options?: { onSettled?: () => void }) => void;

/**
 * What is being set on a page and not saved yet, over what it has. It is saved when hands are still, as one change that can
 * be undone; until the saved page has come back it goes on standing here, so that nothing jumps.
 */
export function useCorrection(page: PageRow, data: Page | undefined, send: Send) {
  const [wish, setWish] = useState<Correction>({});
  const waiting = useRef<{ wish: Correction; timer?: ReturnType<typeof setTimeout> }>({ wish: {} });
  const [sent, setSent] = useState<{ wish: Correction; at: number }>();

  const flush = useCallback(() => {
    clearTimeout(waiting.current.timer);
    const unsaved = waiting.current.wish;
    if (!Object.keys(unsaved).length) return;
    waiting.current = { wish: {} };
    const at = page.change;
    send(
      { do: 'correct', pages: [page.id], wish: unsaved },
      { onSettled: () => setSent((now) => ({ wish: { ...now?.wish, ...unsaved }, at })) },
    );
  }, [page.id, page.change, send]);

  const set = useCallback(
    (part: Correction, now = false) => {
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
  const known = data?.row.change ?? 0;
  useEffect(() => {
    if (!sent) return;
    const settle = () => {
      setWish((now) => without(now, sent.wish));
      setSent(undefined);
    };
    if (known > sent.at) return settle();
    const refused = setTimeout(settle, 3000);
    return () => clearTimeout(refused);
  }, [sent, known]);

  return { wish, set, flush };
}

/** What has been set since is kept: only values that were sent go. */
function without(wish: Correction, sent: Correction): Correction {
  return Object.fromEntries(
    Object.entries(wish).filter(([name, value]) => value !== sent[name as keyof Correction]),
  ) as Correction;
}
