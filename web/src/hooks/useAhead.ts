import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { pageQuery } from '@/api/queries';
import type { PageRow } from '@/api/types';
import type { Size } from '@/engine/geometry/turned';
import { wholeOf } from '@/engine/zoom/tiles';

/** Pictures are fetched for what is looked at first. */
const LATER_MS = 250;

/** Fetches what the neighbours of a page need to be shown at once. */
export function useAhead(page: PageRow | undefined, pages: readonly PageRow[]): void {
  const client = useQueryClient();
  // The browser keeps in memory what somebody holds.
  const held = useRef<HTMLImageElement[]>([]);
  const at = page ? page.number - 1 : -1;
  const next = pages[at + 1];
  const before = at > 0 ? pages[at - 1] : undefined;
  useEffect(() => {
    const timer = setTimeout(() => {
      held.current = [];
      for (const one of [next, before]) {
        if (!one?.original) continue;
        client.prefetchQuery(pageQuery(one.id, String(one.change)));
        held.current.push(...picturesOf(one).map(fetched));
      }
    }, LATER_MS);
    return () => clearTimeout(timer);
  }, [client, next, before]);
}

function fetched(address: string): HTMLImageElement {
  const image = new Image();
  image.src = address;
  image.decode().catch(() => undefined); // where it cannot be shown, its page says so
  return image;
}

function picturesOf({ original, original_px, clean, clean_px }: PageRow): string[] {
  const found: string[] = [];
  if (clean && clean_px) found.push(wholeOf({ address: `/iiif/render/${clean}`, size: clean_px as Size }));
  if (original && original_px) found.push(wholeOf({ address: `/iiif/measure/${original}`, size: original_px as Size }));
  return found;
}
