import { type FormEvent, useState } from 'react';
import { useStations } from '@/api/capture';
import { useMay } from '@/api/people';
import type { PageRow, PaperSize, Stack, Station } from '@/api/types';
import { papersFor } from '@/engine/capture/papers';
import { estimate, fitting, resolutionWords, type Wish } from '@/engine/capture/wish';
import type { Frame } from '@/engine/geometry/frames';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Field } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { SaveSlip } from '@/views/intake/SaveSlip';
import { bytes, counted, figure } from '@/words/figures';

export type StationPanelProps = {
  stations: readonly Station[];
  papers: readonly PaperSize[];
  wish: Wish;
  onWish: (wish: Wish) => void;
  frames: readonly Frame[];
  page: PageRow | undefined;
  stack: Stack | undefined;
  hindered: string | undefined;
  busy: boolean;
  captureLabel: string;
  onCapture: () => void;
  onLook: () => void;
};

/** Stations with what they are at, and what is asked of the one that is chosen. */
export function StationPanel(props: StationPanelProps) {
  const { stations, papers, wish, onWish, frames, page, stack, hindered, busy } = props;
  const station = stations.find(({ id }) => id === wish.station);
  const set = (change: Partial<Wish>) => onWish(fitting({ ...wish, ...change }, station));
  const resolutions = (wish.source === 'platen' ? station?.platen : station?.feeder)?.resolutions ?? [wish.ppi];
  const about = station && estimate(wish, station, frames, papers);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-4">
        <StationList stations={stations} chosen={wish.station} onChoose={(one) => onWish(fitting(wish, one))} />
        {station && (
          <>
            {station.platen && station.feeder && (
              <div className="flex">
                <Choice
                  label="Source"
                  value={wish.source}
                  onChange={(source) => set({ source })}
                  options={[
                    { value: 'platen', label: 'Glass' },
                    { value: 'feeder', label: 'Feeder' },
                  ]}
                />
              </div>
            )}
            {wish.source === 'feeder' && (
              <div className="grid grid-cols-[1fr_84px] gap-2">
                <Select
                  label="Sides"
                  value={wish.sides}
                  onChange={(sides) => set({ sides })}
                  options={[
                    { value: 'one', label: 'Fronts only' },
                    station.two_sided
                      ? { value: 'both', label: 'Both at once' }
                      : { value: 'apart', label: 'Fronts, then backs' },
                  ]}
                />
                <Field
                  label="Sheets"
                  inputMode="numeric"
                  placeholder="if counted"
                  value={wish.sheets}
                  onChange={(event) => set({ sheets: event.target.value.trim() })}
                />
              </div>
            )}
            <Select
              label="Paper"
              value={wish.paper}
              onChange={(paper) => set({ paper })}
              options={papersFor(papers, wish.source === 'platen' ? station.platen : station.feeder, wish.source)}
            />
            <Select
              label="Resolution"
              value={String(wish.ppi)}
              onChange={(ppi) => set({ ppi: Number(ppi) })}
              options={resolutions.map((ppi) => ({ value: String(ppi), label: resolutionWords(ppi) }))}
            />
            <div className="flex">
              <Choice
                label="Colour"
                value={wish.colour}
                onChange={(colour) => set({ colour })}
                options={[
                  { value: 'bitonal', label: 'Bitonal' },
                  { value: 'grey', label: 'Grey' },
                  { value: 'colour', label: 'Colour' },
                ]}
              />
            </div>
            <div className="grid grid-cols-[84px_1fr] gap-2">
              <Field
                label="Name"
                maxLength={80}
                value={wish.name}
                onChange={(event) => set({ name: event.target.value })}
              />
              <Select
                label="Place"
                value={wish.place}
                onChange={(place) => set({ place })}
                options={[
                  { value: 'end', label: 'At the end' },
                  { value: 'after', label: page ? `Behind page ${page.number}` : 'Behind a page', disabled: !page },
                  {
                    value: 'instead',
                    label: page ? `Instead of page ${page.number}` : 'Instead of a page',
                    disabled: !page || wish.source === 'feeder',
                  },
                ]}
              />
            </div>
            {stack && <SaveSlip wish={wish} station={station} stack={stack} papers={papers} />}
          </>
        )}
      </div>
      {station && about && (
        <div className="flex shrink-0 flex-col gap-2 border-t border-hairline p-4">
          <p className="font-mono text-small" data-testid="estimate">
            {counted(about.images, 'image')} · about {bytes(about.bytes)} · {duration(about.seconds)}
          </p>
          {hindered && <p role="status">{hindered}</p>}
          <div className="flex gap-2">
            {wish.source === 'platen' && (
              <Button onClick={props.onLook} disabled={busy} className="flex-1">
                Look <kbd className="font-mono text-small text-soft">L</kbd>
              </Button>
            )}
            <Button kind="main" onClick={props.onCapture} disabled={busy || hindered !== undefined} className="flex-1">
              {props.captureLabel} <kbd className="font-mono text-small">C</kbd>
            </Button>
          </div>
        </div>
      )}
    </div>
  );
}

const duration = (seconds: number) =>
  seconds < 90 ? figure(Math.max(1, seconds), 0, 's') : `${figure(seconds / 60, 0, 'min')}`;

type StationListProps = {
  stations: readonly Station[];
  chosen: number | undefined;
  onChoose: (station: Station) => void;
};

function StationList({ stations, chosen, onChoose }: StationListProps) {
  const [address, setAddress] = useState<string>();
  const { add, forget } = useStations();
  const may = useMay('stations');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (address?.trim()) add.mutate(address, { onSuccess: () => setAddress(undefined) });
  };
  return (
    <section aria-label="Stations" className="flex flex-col gap-1">
      {stations.map((station) => (
        <button
          key={station.id}
          type="button"
          aria-pressed={station.id === chosen}
          onClick={() => onChoose(station)}
          className={`flex flex-col rounded-md border px-3 py-1.5 text-left ${station.id === chosen ? 'border-accent bg-panel shadow-[inset_3px_0_var(--color-accent)]' : 'border-hairline hover:bg-panel'}`}
        >
          <span className="flex items-baseline justify-between gap-2">
            <span className="truncate text-body">{station.name}</span>
            <span className="shrink-0 text-small text-soft">{station.standing}</span>
          </span>
          {station.id === chosen && station.advice && <span className="text-small">{station.advice}</span>}
        </button>
      ))}
      {stations.length === 0 && <p>No station is known yet: add one by its address.</p>}
      {!may ? (
        <p className="text-small text-soft">Only administrators add stations and forget them.</p>
      ) : address === undefined ? (
        <div className="flex gap-1">
          <Button kind="quiet" onClick={() => setAddress('')} className="h-7!">
            Add a station …
          </Button>
          {chosen !== undefined && stations.some(({ id }) => id === chosen) && (
            <Button kind="quiet" onClick={() => forget(chosen)} className="h-7!">
              Forget this one
            </Button>
          )}
        </div>
      ) : (
        <form onSubmit={submit} className="flex items-end gap-1">
          <Field
            label="Address of the station"
            placeholder="http://192.0.2.7"
            className="min-w-0 flex-1"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
            onKeyDown={(event) => event.key === 'Escape' && setAddress(undefined)}
            autoFocus
          />
          <Button type="submit" disabled={add.isPending || !address.trim()}>
            {add.isPending ? 'Asking …' : 'Add'}
          </Button>
        </form>
      )}
    </section>
  );
}
