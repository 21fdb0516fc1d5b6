import { useState } from 'react';
import { useMay } from '@/api/people';
import type { Station } from '@/api/types';
import { sourceOf } from '@/engine/capture/paper';
import { sourceKey } from '@/engine/capture/sentence';
import type { PaperSource } from '@/words/paper';
import { useKept } from './useKept';

/** The question how paper goes into a source: asked before the first capture from it, and whenever somebody wants to look. */
export function usePaper(station: Station | undefined, source: PaperSource) {
  const may = useMay('work');
  const [putOff, keepPutOff] = useKept('paper put off', { sources: [] as string[] });
  const [asked, setAsked] = useState<{ goOn?: () => void }>();
  const key = station ? sourceKey({ station: station.id, source }) : '';
  const known = sourceOf(station, source)?.paper ?? undefined;
  return {
    known,
    may,
    asked,
    open: () => setAsked({}),
    close: () => setAsked(undefined),
    /** Does it at once where it is known how paper goes in, or nobody wants to say; else asks first. */
    before(capture: () => void) {
      if (known || !may || putOff.sources.includes(key)) capture();
      else setAsked({ goOn: capture });
    },
    putItOff: () => keepPutOff({ sources: [...putOff.sources, key] }),
  };
}

export type PaperModel = ReturnType<typeof usePaper>;
