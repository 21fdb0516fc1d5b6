import { Link } from 'wouter';
import { useMay } from '@/api/people';
import type { OrderSlip, Station } from '@/api/types';
import { sourceKey, sourcesOf } from '@/engine/capture/sentence';
import { fitting, type Wish } from '@/engine/capture/wish';
import type { Found } from '@/hooks/useFound';
import { slipWords } from '@/words/slips';
import { SlipDoings } from '../slips/SlipDoings';
import { CARD } from './card';
import { Device } from './Device';
import { FoundStations } from './FoundStations';
import { StationList } from './StationList';

export type StationRowProps = {
  stations: readonly Station[];
  wish: Wish;
  onWish: (wish: Wish) => void;
  found: Found;
  slips: readonly OrderSlip[];
  onSlip: (slip: OrderSlip) => void;
  /** The card of this machine's camera, and whether it is the one in use. */
  camera: React.ReactNode;
  atTable: boolean;
  /** The card of files, at the end of the row. */
  children: React.ReactNode;
};

/** Stations as drawn devices with what they are at, kept slips as cards after them, and files. */
export function StationRow({
  stations,
  wish,
  onWish,
  found,
  slips,
  onSlip,
  camera,
  atTable,
  children,
}: StationRowProps) {
  const [may, mayWork] = [useMay('stations'), useMay('work')];
  const chosen = wish.station === undefined ? '' : sourceKey({ station: wish.station, source: wish.source });
  const chosenStation = atTable ? undefined : stations.find(({ id }) => id === wish.station);
  return (
    <div className="flex shrink-0 flex-wrap items-stretch gap-2.5 border-b border-hairline px-6 py-2.5">
      <ul aria-label="Stations" className="contents">
        {sourcesOf(stations).map((one) => {
          const { device, source } = one;
          const on = !atTable && sourceKey(one) === chosen;
          return (
            <li key={sourceKey(one)} className="contents">
              <button
                type="button"
                aria-pressed={on}
                onClick={() => onWish(fitting({ ...wish, station: device.id, source }, device))}
                className={`${CARD} ${on ? 'border-2 border-accent bg-panel' : 'border-hairline bg-panel hover:border-control'}`}
              >
                <Device source={source} twoSided={device.two_sided} className="mb-1 h-6 w-14" />
                <span className="line-clamp-1 font-semibold">{one.label}</span>
                {device.place && <span className="line-clamp-1 text-soft">{device.place}</span>}
                <span className="line-clamp-2 text-soft">
                  {!device.ready && <span aria-hidden="true">■ </span>}
                  {device.standing}
                  {device.waiting && `, ${device.waiting} waits here`}
                </span>
                {device.quality && (
                  <span className="line-clamp-2 font-semibold">
                    <span aria-hidden="true">■ </span>
                    {device.quality}
                  </span>
                )}
              </button>
            </li>
          );
        })}
        <li className="contents">{camera}</li>
      </ul>
      <FoundStations found={found} />
      {slips.length > 0 && (
        <ul aria-label="Order slips" className="contents">
          {slips.map((slip) => (
            <li key={slip.id} className="flex w-38 shrink-0 flex-col gap-0.5">
              <button
                type="button"
                disabled={slip.station === null}
                onClick={() => onSlip(slip)}
                className={`${CARD} grow border-b-2 border-slip-line bg-slip hover:border-accent disabled:text-soft`}
              >
                <span className="line-clamp-1 font-semibold">{slip.name}</span>
                <span className="line-clamp-3 text-soft">{slipWords(slip)}</span>
              </button>
              {mayWork && <SlipDoings slip={slip} narrow />}
            </li>
          ))}
        </ul>
      )}
      {children}
      {chosenStation && (
        <Link
          href={`/stations/${chosenStation.id}`}
          className="flex min-h-8 items-center self-center px-1 text-small text-soft underline hover:text-ink"
        >
          Quality of {chosenStation.name}
        </Link>
      )}
      {may && <StationList stations={stations} />}
    </div>
  );
}
