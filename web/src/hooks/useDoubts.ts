import { useCallback, useEffect, useReducer, useRef } from 'react';
import { BATCH, doubtsAfter } from '@/api/reading';
import { lastOf, NO_QUEUE, queue, wants } from '@/engine/reading/queue';

/** The doubtful words of a stack, or of a page of it, fetched as they are needed; so many are `expected` to be there. */
export function useDoubts(stackId: number, page: number | undefined, expected: number) {
  const [state, happen] = useReducer(queue, NO_QUEUE);
  const scope = useRef(page);
  useEffect(() => {
    if (scope.current === page) return;
    scope.current = page;
    happen({ kind: 'anew' });
  }, [page]);
  useEffect(() => {
    if (!wants(state)) return;
    happen({ kind: 'fetching' });
    const { round } = state;
    doubtsAfter(stackId, page, lastOf(state)).then(
      (rows) => happen({ kind: 'came', round, rows, most: BATCH }),
      () => happen({ kind: 'failed', round }),
    );
  }, [stackId, page, state]);
  // Pages are read while somebody looks: what was at its end is not any more.
  const more = state.ended && !state.rows.length && expected > 0;
  useEffect(() => {
    if (more) happen({ kind: 'anew' });
  }, [more]);
  const anew = useCallback(() => happen({ kind: 'anew' }), []);
  return { queue: state, happen, anew };
}
