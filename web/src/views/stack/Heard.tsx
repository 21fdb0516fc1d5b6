import { useEffect, useRef, useState } from 'react';
import type { Counts } from '@/api/types';
import { ended } from '@/engine/steps';

export type HeardProps = {
  counts: Counts | undefined;
  /** The page that is looked at, and how it stands; empty where a list tells it. */
  page: string;
};

/** What a screen reader hears of a stack by itself: a step that has come to its end, and the page that one has gone to. */
export function Heard({ counts, page }: HeardProps) {
  const before = useRef(counts);
  const [said, setSaid] = useState('');
  useEffect(() => {
    if (before.current && counts) {
      const news = ended(before.current, counts);
      if (news) setSaid(news);
    }
    before.current = counts;
  }, [counts]);
  return (
    <>
      <p role="status" aria-label="Progress" className="sr-only">
        {said}
      </p>
      <p role="status" aria-label="Page" className="sr-only">
        {page}
      </p>
    </>
  );
}
