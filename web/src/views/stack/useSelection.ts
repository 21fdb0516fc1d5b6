import { useEffect, useMemo, useRef, useState } from 'react';
import type { PageRow, Pages } from '@/api/types';
import { kept, NOTHING, only } from '@/engine/selection/selection';

/** The pages with which a document begins, but for the first: where one would see a break. */
export function useStarts(data: Pages | undefined): ReadonlySet<number> {
  // The list is new with every answer; what it says changes seldom.
  const said = data?.starts.join() ?? '';
  return useMemo(() => new Set(said.split(',').map(Number)), [said]);
}

/** What is chosen, as pages come and go; the page that the address names comes first. */
export function useSelection(pages: PageRow[], shown: PageRow[], named: number | undefined) {
  const [selection, setSelection] = useState(NOTHING);
  const before = useRef<readonly number[]>([]);
  useEffect(() => {
    const order = pages.map(({ id }) => id);
    setSelection((now) => kept(now, order, before.current));
    before.current = order;
  }, [pages]);
  useEffect(() => {
    if (named !== undefined) setSelection((now) => (now.current === named ? now : only(named)));
  }, [named]);
  // A filter may hide what was chosen: then its first page is looked at.
  const first = shown[0]?.id;
  const hidden = named === undefined && !shown.some(({ id }) => id === selection.current);
  const settled = useMemo(() => (hidden && first !== undefined ? only(first) : selection), [hidden, first, selection]);
  return [settled, setSelection] as const;
}
