import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { type Steering, stationsQuery, useCapture } from '@/api/capture';
import { papersQuery, slipsQuery } from '@/api/intake';
import type { Doing, OrderSlip, PageRow, Stack } from '@/api/types';
import { isLooking, partOf } from '@/engine/capture/glass';
import { isOpen } from '@/engine/capture/loads';
import { backsAfter, FIRST_WISH, fitting, hindrance, settingsOf, type Wish, wishOf } from '@/engine/capture/wish';
import { intakeCommands } from '@/engine/keys/intake';
import { dropped } from '@/engine/uploads/files';
import { useCommands } from '@/hooks/useCommands';
import { useFilePicker } from '@/hooks/useFilePicker';
import { useFiles } from '@/hooks/useFiles';
import { useFound } from '@/hooks/useFound';
import { useGlass } from '@/hooks/useGlass';
import { useKept } from '@/hooks/useKept';
import { useLoads } from '@/hooks/useLoads';
import { usePaper } from '@/hooks/usePaper';
import { useTable } from '@/hooks/useTable';
import { Failed, Loading } from '@/ui/States';
import { Estimate, SlipLine } from '../slips/SlipLine';
import { BacksAwaited } from './BacksAwaited';
import { CameraCard } from './CameraCard';
import { CameraLine } from './CameraLine';
import { CameraView } from './CameraView';
import { FeederView } from './FeederView';
import { FilesCard } from './FilesCard';
import { GlassView } from './GlassView';
import { LastPictures } from './LastPictures';
import { LeavesView } from './LeavesView';
import { PaperQuestion } from './PaperQuestion';
import { Recapture } from './Recapture';
import { RunView } from './RunView';
import { SaveSlip } from './SaveSlip';
import { StackLine } from './StackLine';
import { StationRow } from './StationRow';
import { Taking } from './Taking';

export type IntakeProps = {
  stack: Stack | undefined;
  /** Undefined until something goes into a new stack. */
  stackId: number | undefined;
  /** The stack that things go into, begun with the first of them; named after these files where it has no name yet. */
  ensure?: (names: readonly string[]) => Promise<number>;
  pages: readonly PageRow[];
  page: PageRow | undefined;
  onChange: (doing: Doing) => void;
  onPage: (id: number) => void;
};

/** Where pages of this stack go, and whose place one of them takes; kept as long as the view is open, and no longer. */
type Place = Pick<Wish, 'place'>;

/** Paper in hand: the order slip as a sentence, the stations, the glass or the load as it comes, files. */
export function Intake({ stack, stackId, ensure, pages, page, onChange, onPage }: IntakeProps) {
  const { data: stations, error, refetch } = useQuery(stationsQuery);
  const found = useFound();
  const { data: papers = [] } = useQuery(papersQuery);
  const { data: slips = [] } = useQuery(slipsQuery);
  const [kept, keep] = useKept('wish', FIRST_WISH);
  const [{ place }, setPlace] = useState<Place>({ place: 'end' });
  const station = stations?.find(({ id }) => id === kept.station) ?? stations?.[0];
  const wish = fitting({ ...kept, place, station: station?.id }, station);
  const setWish = (next: Wish) => {
    setPlace(next);
    keep({ ...next, place: 'end' });
  };
  const byId = useMemo(() => new Map(pages.map((one) => [one.id, one])), [pages]);
  const loads = useLoads(stackId, station?.id, pages);
  const { run, pair, weaving } = loads;
  const glass = useGlass(station, async () => {
    const { data } = await refetch();
    return data?.find(({ id }) => id === station?.id)?.advice;
  });
  const paper = usePaper(station, wish.source);
  const { start, starting, steer, steering } = useCapture(ensure, stackId);
  const files = useFiles(stackId, ensure);
  const picker = useFilePicker((chosen) => files.add(chosen));

  const table = useTable({
    stack: async (name) => {
      const into = stackId ?? (await ensure?.([name]));
      if (into === undefined) throw new Error('There is no stack to put it into.');
      return into;
    },
    pages,
    sending: files.uploads.list.some(({ state }) => state !== 'done'),
  });
  const atTable = table.on;
  const chooseSource = (next: Wish) => {
    table.leave();
    setWish(next);
  };
  const showFiles = () => {
    table.leave();
    files.show();
  };

  const { frames } = glass.state;
  const hindered = hindrance(wish, station, frames, page?.id);
  const half = wish.source === 'feeder' && wish.sides === 'apart' ? (loads.left ? 'backs' : 'fronts') : '';
  // Of the backs it is known how many there are.
  const told = half === 'backs' ? { ...wish, sheets: String(loads.left) } : wish;
  const load =
    !run || files.shown || atTable ? 'none' : isOpen(run) ? 'open' : run.state === 'stopped' ? 'stopped' : 'over';
  const platen = wish.source === 'platen' && !!station?.platen;
  const busy = starting || weaving || load === 'open' || load === 'stopped';
  const onGlass = platen && !run && !weaving && !files.shown && !atTable;
  const capture = () => {
    if (station && !hindered) paper.before(captureNow);
  };
  const captureNow = () => {
    if (!station || hindered) return;
    loads.happen({ kind: 'begin' });
    start({
      station: station.id,
      settings: settingsOf(wish, {
        frames,
        page: page?.id,
        half,
        backs: loads.left,
        quarter: glass.state.quarter,
        papers,
      }),
    });
    // One image takes one place: the next capture is a new page again.
    if (wish.place === 'instead') setPlace({ place: 'end' });
  };
  const look = () => {
    loads.happen({ kind: 'leave', run: run?.id });
    glass.happen({ kind: 'look' });
  };
  const lookCloser = () => {
    const frame = frames[glass.state.chosen ?? 0] ?? frames[0];
    const bed = station?.platen;
    if (glass.state.closer) glass.happen({ kind: 'whole glass' });
    else if (bed && frame) glass.happen({ kind: 'closer', part: partOf(frame, bed) });
  };
  // Frames stay: the next page is often laid where this one was.
  const leave = () => loads.happen({ kind: 'leave', run: run?.id });
  const steerRun = (action: Steering) => run && steer({ run: run.id, action });
  const takeSlip = (slip: OrderSlip) => {
    const of = stations?.find(({ id }) => id === slip.station);
    setWish(fitting(wishOf(slip, papers), of));
  };
  const recapture = (id: number) => {
    loads.happen({ kind: 'leave', run: run?.id });
    onPage(id);
    // One image takes its place, so it needs a glass: that of another station where this one has none.
    const withGlass = station?.platen ? station : stations?.find(({ platen }) => platen);
    setWish({ ...wish, station: withGlass?.id ?? station?.id, source: 'platen', place: 'instead' });
  };
  useCommands(
    intakeCommands({
      ready: atTable ? table.ready : !busy && !hindered && !files.shown && !isLooking(glass.state),
      capture: atTable ? table.camera.release : capture,
      camera: atTable,
      byItself: () => table.change({ automatic: !table.automatic }),
      glass: onGlass,
      looking: isLooking(glass.state),
      look,
      newFrame: () => addFrame(),
      closer: onGlass && !isLooking(glass.state) && (frames.length > 0 || glass.state.closer !== undefined),
      lookCloser,
      turnView: () => (atTable ? table.turn() : glass.happen({ kind: 'turn view' })),
      load,
      goOn: () => steerRun('go-on'),
      feeding: run?.settings.source === 'feeder',
      pause: () => steerRun('pause'),
      keep: () => steerRun('finish'),
      discard: () => steerRun('cancel'),
      next: leave,
      found: found.first !== undefined,
      addFound: () => found.first && found.add(found.first.id),
      addFiles: picker.chooseFiles,
      addFolder: picker.chooseFolder,
      files: files.shown && !atTable,
      leaveFiles: files.leave,
    }),
  );
  const addFrame = () => {
    const bed = station?.platen;
    if (bed) glass.happen({ kind: 'new frame', width: bed.width_mm, height: bed.height_mm });
  };

  if (error && !stations) return <Failed message={error.message} retry={() => refetch()} />;
  if (!stations) return <Loading label="Asking the stations" className="m-6 flex-1" />;
  const captureLabel =
    half === 'fronts'
      ? 'Capture the fronts'
      : half === 'backs'
        ? 'Capture the backs'
        : platen && frames.length > 1
          ? `Capture ${frames.length} frames`
          : 'Capture';
  const button = {
    label: captureLabel,
    why: hindered ?? (isLooking(glass.state) ? 'The first look is on its way.' : ''),
    disabled: busy,
    onCapture: capture,
  };
  return (
    <main
      className="flex min-w-0 flex-1 flex-col bg-ground lg:min-h-0"
      onDragOver={(event) => event.preventDefault()}
      onDrop={async (event) => {
        event.preventDefault();
        files.add(await dropped(event.dataTransfer.items));
      }}
    >
      {picker.inputs}
      {station && <PaperQuestion paper={paper} station={station} source={wish.source} />}
      <section aria-label="Order slip" className="shrink-0 border-b border-hairline bg-panel px-6 py-3">
        <div className="flex flex-wrap items-start gap-x-8 gap-y-2">
          <div className="min-w-0 flex-1 basis-96">
            {atTable ? (
              <CameraLine table={table} page={page} />
            ) : station ? (
              <SlipLine
                stations={stations}
                station={station}
                papers={papers}
                wish={told}
                onWish={setWish}
                frames={frames}
                onNoFrames={() => glass.happen({ kind: 'frames', frames: [] })}
                page={page}
              />
            ) : (
              <p className="text-title">No station is known yet. Add files, or a station by its address.</p>
            )}
            {/* What has stopped says so itself, and where to go on. */}
            {station?.advice && !atTable && load !== 'stopped' && (
              <p role="status" className="mt-1 border-l-3 border-ink pl-3">
                {station.name}: {station.advice}
              </p>
            )}
            {stack && <StackLine stack={stack} onChange={onChange} />}
          </div>
          {station && !atTable && (
            <div className="flex max-w-72 flex-wrap items-start justify-end gap-x-4 gap-y-1 text-right">
              <Estimate wish={told} station={station} frames={frames} papers={papers} />
              <SaveSlip wish={wish} stack={stack} />
            </div>
          )}
        </div>
        {pair && loads.left > 0 && half !== 'backs' && !atTable && (
          <BacksAwaited
            pair={pair}
            left={loads.left}
            onCapture={() =>
              setWish(
                fitting(
                  backsAfter(wish, pair.fronts),
                  stations.find(({ id }) => id === pair.fronts.station),
                ),
              )
            }
            onNone={() => loads.markSingle(new Set(pair.fronts.files.map((_, sheet) => sheet)))}
          />
        )}
        {stackId !== undefined && <Recapture stackId={stackId} pages={pages} onPage={recapture} />}
      </section>
      <StationRow
        stations={stations}
        wish={wish}
        onWish={chooseSource}
        found={found}
        slips={slips}
        onSlip={(slip) => {
          table.leave();
          takeSlip(slip);
        }}
        camera={<CameraCard on={atTable} seen={table.camera.seen} onChoose={() => table.change({ on: true })} />}
        atTable={atTable}
      >
        <FilesCard
          stackId={stackId}
          page={page}
          ids={files.ids}
          onFiles={picker.chooseFiles}
          onFolder={picker.chooseFolder}
          onAfter={(chosen) => page && files.add(chosen, { after: page.id })}
          {...(files.uploads.list.length && (atTable || !files.shown) ? { onShow: showFiles } : {})}
        />
      </StationRow>
      <div className="on-surround flex min-h-[60vh] flex-1 flex-col bg-surround sm:flex-row lg:min-h-0">
        {atTable ? (
          <CameraView table={table} pages={pages} failed={files.uploads.failed} onFailed={showFiles} />
        ) : files.shown && files.queue && stackId !== undefined ? (
          <Taking queue={files.queue} stackId={stackId} pages={byId} onLeave={files.leave} />
        ) : weaving && pair?.backs ? (
          <LeavesView
            fronts={pair.fronts}
            backs={pair.backs}
            pages={byId}
            single={loads.single}
            onSingle={loads.markSingle}
            onApply={(doing) => {
              onChange(doing);
              loads.happen({ kind: 'leave', run: run?.id });
            }}
            onLeave={() => loads.happen({ kind: 'leave', run: run?.id })}
          />
        ) : run ? (
          <RunView
            run={run}
            pages={byId}
            steering={steering}
            onSteer={steerRun}
            onLeave={leave}
            capture={platen && load === 'over' ? button : undefined}
          />
        ) : (
          <>
            <LastPictures pages={pages} onPage={onPage} />
            {platen && station ? (
              <GlassView
                glass={glass}
                station={station}
                wish={wish}
                papers={papers}
                capture={button}
                onLook={look}
                onNewFrame={addFrame}
                onCloser={lookCloser}
                paper={paper}
              />
            ) : (
              <FeederView
                loads={loads}
                half={half}
                sides={wish.sides}
                empty={station?.standing.includes('empty') ?? false}
                pages={byId}
                capture={station ? button : undefined}
                paper={paper}
              />
            )}
          </>
        )}
      </div>
    </main>
  );
}
