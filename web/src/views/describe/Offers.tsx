import { useQuery } from '@tanstack/react-query';
import { offersQuery } from '@/api/offers';
import type { Offer } from '@/api/types';
import { Button } from '@/ui/Button';
import { LinePicture } from '@/ui/LinePicture';
import { Loading } from '@/ui/States';

export type OffersProps = {
  stackId: number;
  /** The page that the document begins with. */
  page: number;
  may: boolean;
  onTake: (column: 'date' | 'identifier', value: string) => void;
  onPatterns: () => void;
};

/** Dates and identifiers that the pages of a document say themselves, each with its line: one press takes it. */
export function Offers({ stackId, page, may, onTake, onPatterns }: OffersProps) {
  const { data, isPending } = useQuery(offersQuery(stackId, page));
  return (
    <section aria-label="Found on its pages" className="flex min-h-0 flex-col gap-2 overflow-y-auto">
      <div className="flex items-center justify-between gap-2">
        <h3 className="font-semibold">Found on its pages</h3>
        <Button size="small" onClick={onPatterns}>
          Identifiers …
        </Button>
      </div>
      {isPending ? (
        <Loading label="Looking through its pages" className="h-14" />
      ) : (
        <>
          <Kind
            name="Date"
            none="No date."
            offers={data?.dates ?? []}
            may={may}
            onTake={(value) => onTake('date', value)}
          />
          <Kind
            name="Identifier"
            none="No identifier of a kind that is known."
            offers={data?.identifiers ?? []}
            may={may}
            onTake={(value) => onTake('identifier', value)}
          />
        </>
      )}
    </section>
  );
}

type KindProps = {
  name: string;
  none: string;
  offers: readonly Offer[];
  may: boolean;
  onTake: (value: string) => void;
};

function Kind({ name, none, offers, may, onTake }: KindProps) {
  if (offers.length === 0) return <p className="text-small">{none}</p>;
  return (
    <ul aria-label={`${name}s found`} className="flex flex-col gap-2">
      {offers.map((offer) => (
        <li key={offer.value} className="flex flex-col gap-1">
          <LinePicture
            clean={offer.clean}
            size={offer.size_px}
            line={offer.line}
            marks={[offer.box]}
            text={offer.text}
            high={34}
          />
          <span className="flex items-center justify-between gap-2 text-small">
            <span className="font-mono">
              {offer.value}
              {offer.number > 1 && ` · page ${offer.number}`}
            </span>
            {may && (
              <Button
                size="small"
                aria-label={`Take ${offer.value} as its ${name.toLowerCase()}`}
                onClick={() => onTake(offer.value)}
              >
                Take
              </Button>
            )}
          </span>
        </li>
      ))}
    </ul>
  );
}
