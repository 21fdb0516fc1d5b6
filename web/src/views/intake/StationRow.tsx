import { type FormEvent, useState } from 'react';
import { useStations } from '@/api/capture';
import { useMay } from '@/api/people';
import type { OrderSlip, Station } from '@/api/types';
import { sourceKey, sourcesOf } from '@/engine/capture/sentence';
import { fitting, type Wish } from '@/engine/capture/wish';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { Pop } from '@/ui/Pop';
import { slipWords } from '@/words/slips';
import { Device } from './Device';

export type StationRowProps = {
  stations: readonly Station[];
  wish: Wish;
  onWish: (wish: Wish) => void;
  slips: readonly OrderSlip[];
  onSlip: (slip: OrderSlip) => void;
  /** The card of files, at the end of the row. */
  children: React.ReactNode;
};

const CARD = 'flex w-38 shrink-0 flex-col rounded-sm border px-3 py-1.5 text-left text-small leading-4.5';

/** Stations as drawn devices with what they are at, kept slips as cards after them, and files. */
export function StationRow({ stations, wish, onWish, slips, onSlip, children }: StationRowProps) {
  const may = useMay('stations');
  const chosen = wish.station === undefined ? '' : sourceKey({ station: wish.station, source: wish.source });
  return (
    <div className="flex shrink-0 flex-wrap items-stretch gap-2.5 border-b border-hairline px-6 py-2.5">
      <ul aria-label="Stations" className="contents">
        {sourcesOf(stations).map((one) => {
          const { device, source } = one;
          const on = sourceKey(one) === chosen;
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
                <span className="line-clamp-2 text-soft">
                  {!device.ready && <span aria-hidden="true">■ </span>}
                  {device.standing}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      {slips.length > 0 && (
        <ul aria-label="Order slips" className="contents">
          {slips.map((slip) => (
            <li key={slip.id} className="contents">
              <button
                type="button"
                disabled={slip.station === null}
                onClick={() => onSlip(slip)}
                className={`${CARD} border-b-2 border-slip-line bg-slip hover:border-accent disabled:text-soft`}
              >
                <span className="line-clamp-1 font-semibold">{slip.name}</span>
                <span className="line-clamp-3 text-soft">{slipWords(slip)}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {children}
      {may && <AddStation stations={stations} chosen={stations.find(({ id }) => id === wish.station)} />}
    </div>
  );
}

function AddStation({ stations, chosen }: { stations: readonly Station[]; chosen: Station | undefined }) {
  const [open, setOpen] = useState(false);
  const [address, setAddress] = useState('');
  const { add, forget } = useStations();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!address.trim()) return;
    add.mutate(address, {
      onSuccess: () => {
        setAddress('');
        setOpen(false);
      },
    });
  };
  return (
    <Pop
      label="Stations"
      open={open}
      onOpenChange={setOpen}
      className="w-80"
      trigger={
        <Button kind="quiet" size="small" className="self-center">
          {stations.length ? 'Stations …' : 'Add a station …'}
        </Button>
      }
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <Field
          label="Address of the station"
          placeholder="http://192.0.2.7"
          value={address}
          onChange={({ target }) => setAddress(target.value)}
        />
        <Button type="submit" disabled={add.isPending || !address.trim()}>
          {add.isPending ? 'Asking the station …' : 'Add'}
        </Button>
        {chosen && (
          <Button
            kind="quiet"
            size="small"
            onClick={() => {
              forget(chosen.id);
              setOpen(false);
            }}
          >
            Forget {chosen.name}
          </Button>
        )}
      </form>
    </Pop>
  );
}
