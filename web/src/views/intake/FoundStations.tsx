import type { FoundStation } from '@/api/types';
import type { Found } from '@/hooks/useFound';
import { Button } from '@/ui/Button';
import { CARD } from './card';
import { Device } from './Device';

/** Stations that announce themselves on the network, in dashes until they are on the list. */
export function FoundStations({ found: { stations, first, may, add } }: { found: Found }) {
  if (stations.length === 0) return null;
  return (
    <ul aria-label="Found on the network" className="contents">
      {stations.map((one) => (
        <li key={one.id} className={`${CARD} w-46 border-dashed border-control`}>
          <Device source={one.platen ? 'platen' : 'feeder'} twoSided={one.two_sided} className="mb-1 h-6 w-14" />
          <span className="line-clamp-1 font-semibold">{one.known_as || one.name}</span>
          <span className="line-clamp-3 text-soft">{one.problem || foundWords(one)}</span>
          {may && !one.problem && (
            <Button
              size="small"
              className="mt-1 self-start"
              {...(one === first ? { shortcut: 'o' } : {})}
              onClick={() => add(one.id)}
            >
              {one.known_as ? 'Use it there' : 'Add'}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Where it is, and what it can do. */
function foundWords({ known_as, place, address, platen, feeder, two_sided }: FoundStation): string {
  // Two of one kind, of which nobody said where they stand, differ in nothing else.
  const at = address.replace(/^https?:\/\//, '');
  if (known_as) return `now at ${at}`;
  const sources = [...(platen ? ['glass'] : []), ...(feeder ? [two_sided ? 'feeder, both sides' : 'feeder'] : [])];
  return [...(place ? [place] : []), sources.join(', '), at].join(' · ');
}
