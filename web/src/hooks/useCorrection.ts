import { useCallback, useEffect, useRef, useState } from 'react';
import type { Wish } from '@/api/bench';
import type { Page } from '@/api/types';
import { correcting, type Happening, isPending, untouched, wished } from '@/engine/bench/correction';
import type { Hands } from '@/engine/changes/hands';
import { useHolding } from './useHolding';

/** Hands that nudge are still when nothing was set for so long, and nothing is held down: one pull is one change, however slow. */
const STILL_MS = 500;

/** What is being set on a page over what it has, saved when hands are still; whoever leaves the page leaves it saved. */
export function useCorrection(page: number, data: Page | undefined, hands: Hands) {
  const [state, setState] = useState(() => untouched(page));
  const now = useRef(state);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const holding = useHolding();

  const happen = useCallback(
    (happened: Happening): void => {
      const [after, instructions] = correcting(now.current, happened);
      now.current = after;
      setState(after);
      for (const one of instructions) {
        if (one.do === 'send')
          hands.do(one.doing).then(
            (count) => happen({ kind: 'done', key: one.key, count }),
            () => happen({ kind: 'failed', key: one.key }),
          );
        else {
          clearTimeout(timer.current);
          if (one.do === 'wait') timer.current = setTimeout(look, STILL_MS);
          else happen(STILL);
        }
      }

      function look() {
        if (holding()) timer.current = setTimeout(look, STILL_MS);
        else happen(STILL);
      }
    },
    [hands, holding],
  );
  const set = useCallback((part: Wish, atOnce = false) => happen({ kind: 'set', part, now: atOnce }), [happen]);
  const flush = useCallback(() => {
    clearTimeout(timer.current);
    happen(STILL);
  }, [happen]);

  useEffect(() => {
    clearTimeout(timer.current);
    happen({ kind: 'page', page, keys: KEYS });
  }, [happen, page]);
  const count = data?.row.change;
  useEffect(() => {
    if (count !== undefined) happen({ kind: 'shown', count });
  }, [happen, count]);
  useEffect(() => {
    // Before the page of the browser goes, also before it is asked whether it may, and when the bench is left.
    window.addEventListener('beforeunload', flush, true);
    window.addEventListener('pagehide', flush);
    return () => {
      window.removeEventListener('beforeunload', flush, true);
      window.removeEventListener('pagehide', flush);
      flush();
    };
  }, [flush]);

  // What was set on the page before is its own, and on its way.
  const mine = state.page === page ? state : untouched(page);
  return { wish: wished(mine), pending: isPending(mine), set, flush };
}

const KEYS = () => crypto.randomUUID();
const STILL: Happening = { kind: 'still', keys: KEYS };
