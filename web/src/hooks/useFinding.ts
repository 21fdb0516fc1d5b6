import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { foundOnQuery, foundQuery } from '@/api/reading';
import type { Box, FoundPage, FoundPlace, PageRow } from '@/api/types';

/** A word in hand, by its place. */
export type Picked = { page: number; box: Box };

export type Finding = {
  stackId: number;
  /** The page that is looked at. */
  page: PageRow | undefined;
  /** The stack's count of changes. */
  change: number;
  picked: Picked | undefined;
  /** What is looked for at first: the first of it on the page that is looked at is picked. */
  asked?: string | undefined;
  onPick: (picked: Picked) => void;
};

/** No words are there: the first or the last one found on a page that is gone to takes its place. */
const FIRST: Box = [0, 0, 0, 0];
const LAST: Box = [0, 0, 0, 0];

/** Words looked for in a stack: on which pages they stand, where on the one that is looked at, and going from one to the next. */
export function useFinding({ stackId, page, change, picked, asked: begun, onPick }: Finding) {
  const [words, setWords] = useState(begun);
  const begins = useRef(begun !== undefined);
  const [at, setAt] = useState(-1);
  const field = useRef<HTMLInputElement>(null);
  const asked = words?.trim() ?? '';
  const { data: found, error } = useQuery(foundQuery(stackId, asked, change));
  const hits: FoundPage[] | undefined = asked ? found : undefined;
  const { data: places } = useQuery({
    ...foundOnQuery(page?.id ?? -1, asked, page?.change ?? 0),
    enabled: page !== undefined && asked !== '',
  });
  const [first, last] = [places?.[0], places?.at(-1)];
  useEffect(() => {
    const meant = picked?.box === FIRST ? first : picked?.box === LAST ? last : undefined;
    if (picked && meant && page?.id === picked.page) onPick({ page: picked.page, box: meant.box });
  }, [picked, first, last, page?.id, onPick]);
  useEffect(() => {
    if (!begins.current || !first || !page) return;
    begins.current = false;
    onPick({ page: page.id, box: first.box });
  }, [first, page, onPick]);
  const here = places?.findIndex(({ box }) => page?.id === picked?.page && `${box}` === `${picked?.box}`) ?? -1;

  return {
    field,
    /** What is looked for; undefined while nothing is. */
    words,
    hits,
    places: asked ? (places ?? NONE) : NONE,
    problem: asked ? (error?.message ?? '') : '',
    /** Which of the places on the page is in hand, from 1; 0 for none of them. */
    here: here + 1,
    /** Whether the page that is looked at holds it only as another reading of a doubtful word. */
    unsure: hits?.some((hit) => hit.unsure && hit.page === page?.id) ?? false,
    ask: (next: string) => {
      setWords(next);
      setAt(-1);
    },
    open: () => {
      // At once: what is typed next is what is looked for.
      flushSync(() => setWords((now) => now ?? ''));
      field.current?.focus();
    },
    close: () => setWords(undefined),
    step: (by: number) => {
      if (!hits?.length) return;
      const beside = here < 0 ? undefined : places?.[here + by];
      if (page && beside) return onPick({ page: page.id, box: beside.box });
      const next = ((((at < 0 && by < 0 ? 0 : at) + by) % hits.length) + hits.length) % hits.length;
      const hit = hits[next];
      setAt(next);
      if (hit) onPick({ page: hit.page, box: by < 0 ? LAST : FIRST });
    },
  };
}

const NONE: FoundPlace[] = [];
