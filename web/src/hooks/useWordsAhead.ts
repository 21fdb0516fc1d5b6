import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { wordsQuery } from '@/api/reading';
import type { Box, PageRow } from '@/api/types';
import { keyOf } from '@/engine/reading/queue';
import { lineWith, stripAddress } from '@/engine/reading/words';

/** Fetches what the next words need to be shown at once. */
export function useWordsAhead(rows: readonly { page: number; box: Box }[], byId: ReadonlyMap<number, PageRow>) {
  const client = useQueryClient();
  const held = useRef<HTMLImageElement[]>([]);
  const key = rows.map(keyOf).join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for the rows
  useEffect(() => {
    let gone = false;
    held.current = [];
    for (const row of rows) {
      const page = byId.get(row.page);
      if (!page?.clean || page.state !== 'ready') continue;
      const { clean, clean_px: size } = page;
      client.fetchQuery(wordsQuery(page.id, page.change)).then(
        (text) => {
          const line = lineWith(text, row.box);
          if (gone || !line || !size) return;
          const image = new Image();
          image.src = stripAddress(clean, line, size as [number, number]);
          held.current.push(image);
        },
        () => undefined, // what is wrong is said when its turn has come
      );
    }
    return () => {
      gone = true;
    };
  }, [client, key]);
}
