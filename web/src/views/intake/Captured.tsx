import { useState } from 'react';
import type { PageRow, Run } from '@/api/types';

export type CapturedProps = { run: Run; index: number; page: PageRow | undefined; large?: boolean };

/** An image of a load: as the station gave it at first, as the small picture made of it later. */
export function Captured({ run, index, page, large }: CapturedProps) {
  const small = page?.original ? `/thumbs/measure/${page.original}.webp` : undefined;
  const [failed, setFailed] = useState(false);
  const source = !large && small ? small : `/api/v1/runs/${run.id}/images/${index}`;
  if (failed && !small) return <span className="text-small">{index + 1}</span>;
  return (
    <img
      src={failed ? small : source}
      alt={`Page ${index + 1} as captured`}
      className="max-h-full max-w-full object-contain"
      onError={() => setFailed(true)}
    />
  );
}
