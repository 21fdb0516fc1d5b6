import { useQuery } from '@tanstack/react-query';
import { partsQuery } from '@/api/binding';
import type { PageRow } from '@/api/types';
import { Button } from '@/ui/Button';
import { Failed, Loading } from '@/ui/States';
import { PARTS } from '@/words/binding';
import { bytes } from '@/words/figures';

export type BoundPageProps = { page: PageRow; label: string; apart: boolean; onApart: (apart: boolean) => void };

/** A page as it is bound; or its layers, laid apart. */
export function BoundPage({ page, label, apart, onApart }: BoundPageProps) {
  const {
    data: parts,
    error,
    refetch,
  } = useQuery({
    ...partsQuery(page.id, page.clean ?? ''),
    enabled: page.clean !== null,
  });
  return (
    <section
      aria-label="The page as it is bound"
      className="flex min-h-0 min-w-0 flex-1 flex-col gap-2 text-surround-ink"
    >
      <div className="flex min-h-0 flex-1 items-center justify-center gap-3">
        {apart && parts ? (
          parts.map((part) => (
            <figure key={part.kind} className="flex h-full min-w-0 flex-1 flex-col justify-center gap-1.5">
              <img
                src={`/api/v1/pages/${page.id}/parts/${part.kind}?of=${page.clean}`}
                alt={`${PARTS[part.kind]} of page ${page.number}`}
                className="min-h-0 max-w-full self-center object-contain"
              />
              <figcaption className="flex flex-wrap justify-center gap-x-3 text-small">
                <span className="font-semibold">{PARTS[part.kind]}</span>
                <span className="font-mono">{bytes(part.bytes)}</span>
                <span className="font-mono">
                  {part.packed_as}, {Math.round(part.ppi)} ppi
                </span>
              </figcaption>
            </figure>
          ))
        ) : page.clean ? (
          <img
            src={`/iiif/render/${page.clean}/full/!1400,1400/0/default.jpg`}
            alt={`Page ${page.number} as it is bound`}
            className="max-h-full max-w-full object-contain"
          />
        ) : (
          <Loading label="The page is being corrected" className="h-40 w-60" />
        )}
      </div>
      {error && <Failed message={error.message} retry={() => refetch()} />}
      <div className="flex min-h-8 items-center justify-between gap-4 text-small">
        <span>
          Page {page.number}, shown as <span className="font-mono">{label || 'no number'}</span>
        </span>
        <span className="flex items-center gap-3">
          <span className="font-mono">{bytes(page.bytes ?? 0)}</span>
          <Button
            size="small"
            shortcut="L"
            pressed={apart}
            disabled={!parts || parts.length < 2}
            onClick={() => onApart(!apart)}
          >
            {parts && parts.length < 2 ? 'One picture, no layers' : 'Layers apart'}
          </Button>
        </span>
      </div>
    </section>
  );
}
