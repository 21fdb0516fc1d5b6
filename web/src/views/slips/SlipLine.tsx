import type { PageRow, PaperSize, Station } from '@/api/types';
import {
  extentOptions,
  FRAMES,
  isPlural,
  placeOptions,
  sideOptions,
  sourceKey,
  sourcesOf,
} from '@/engine/capture/sentence';
import { estimate, fitting, resolutionWords, type Wish } from '@/engine/capture/wish';
import type { Frame } from '@/engine/geometry/frames';
import { Field } from '@/ui/Field';
import { Word, Written } from '@/ui/Word';
import { COLOUR_LABELS } from '@/words/colours';
import { bytes, counted, figure } from '@/words/figures';

export type SlipLineProps = {
  stations: readonly Station[];
  station: Station;
  papers: readonly PaperSize[];
  wish: Wish;
  onWish: (wish: Wish) => void;
  frames: readonly Frame[];
  onNoFrames: () => void;
  page: PageRow | undefined;
  /** On a slip that is kept: without what lies there now. */
  kept?: boolean;
};

/** What will be captured, as a sentence; each piece of it can be changed where it stands. */
export function SlipLine(props: SlipLineProps) {
  const { stations, station, papers, wish, onWish, frames, onNoFrames, page, kept = false } = props;
  const set = (change: Partial<Wish>) => onWish(fitting({ ...wish, ...change }, station));
  const sources = sourcesOf(stations);
  const platen = wish.source === 'platen';
  const bed = platen ? station.platen : station.feeder;
  const them = isPlural(wish, frames.length) ? 'them' : 'it';
  return (
    <p className="min-h-16 text-title leading-8" data-testid="slip">
      <Word
        label="Station"
        value={sourceKey({ station: station.id, source: wish.source })}
        options={sources.map((one) => ({ value: sourceKey(one), label: one.label }))}
        onChange={(key) => {
          const chosen = sources.find((one) => sourceKey(one) === key);
          if (chosen) onWish(fitting({ ...wish, station: chosen.station, source: chosen.source }, chosen.device));
        }}
      />{' '}
      captures{' '}
      {!platen && (
        <>
          <Word label="Sides" value={wish.sides} options={sideOptions(station)} onChange={(sides) => set({ sides })} />{' '}
          of{' '}
        </>
      )}
      <Word
        label="What is captured"
        value={platen && frames.length ? FRAMES : wish.paper}
        options={extentOptions(wish, station, papers, frames.length)}
        onChange={(paper) => {
          if (paper === FRAMES) return;
          if (frames.length) onNoFrames();
          set({ paper });
        }}
      />{' '}
      at{' '}
      <Word
        label="Resolution"
        value={String(wish.ppi)}
        options={(bed?.resolutions ?? [wish.ppi]).map((ppi) => ({
          value: String(ppi),
          label: String(ppi) === String(wish.ppi) ? `${ppi} ppi` : resolutionWords(ppi),
        }))}
        onChange={(ppi) => set({ ppi: Number(ppi) })}
      />{' '}
      in{' '}
      <Word
        label="Colour"
        value={wish.colour}
        options={(['colour', 'grey', 'bitonal'] as const).map((value) => ({ value, label: COLOUR_LABELS[value] }))}
        onChange={(colour) => set({ colour })}
      />
      {!platen && (
        <>
          {station.feeder?.slow_pace && (
            <>
              ,{' '}
              <Word
                label="Pace"
                value={wish.slow ? 'slow' : 'usual'}
                options={[
                  { value: 'usual', label: 'at the usual pace' },
                  { value: 'slow', label: 'slowly, for delicate sheets' },
                ]}
                onChange={(pace) => set({ slow: pace === 'slow' })}
              />
            </>
          )}
          {!kept && (
            <>
              ,{' '}
              <Written
                label="Sheets"
                text={wish.sheets ? counted(Number(wish.sheets) || 0, 'sheet') : 'sheets not counted'}
              >
                <Field
                  label="Sheets expected (optional)"
                  inputMode="numeric"
                  value={wish.sheets}
                  onChange={({ target }) => set({ sheets: target.value.trim() })}
                  help="Given, the load says so when one is missing or two went through as one."
                />
              </Written>
            </>
          )}
        </>
      )}
      , names {them}{' '}
      <Written label="File names begin with" text={wish.name.trim() || 'page'}>
        <Field
          label="File names begin with"
          maxLength={80}
          value={wish.name}
          onChange={({ target }) => set({ name: target.value })}
        />
      </Written>
      {!kept && (
        <>
          {' '}
          and puts {them}{' '}
          <Word
            label="Goes in"
            value={wish.place}
            options={placeOptions(wish, page)}
            onChange={(place) => set({ place })}
          />
        </>
      )}
      .
    </p>
  );
}

/** About how much and how long it gets. */
export function Estimate({
  wish,
  station,
  frames,
  papers,
}: Pick<SlipLineProps, 'wish' | 'station' | 'frames' | 'papers'>) {
  const about = estimate(wish, station, frames, papers);
  return (
    <p className="text-right font-mono text-small text-soft" data-testid="estimate">
      {about.each ? 'for each sheet' : counted(about.images, 'image')}
      <br />
      about {bytes(about.bytes)} · {duration(about.seconds)}
    </p>
  );
}

const duration = (seconds: number) =>
  seconds < 90 ? figure(Math.max(1, seconds), 0, 's') : figure(seconds / 60, 0, 'min');
