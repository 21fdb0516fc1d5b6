import { useQuery } from '@tanstack/react-query';
import { useMemo, useState, useSyncExternalStore } from 'react';
import { isOpen, stationsQuery, useCapture } from '@/api/capture';
import { papersQuery } from '@/api/intake';
import type { Doing, PageRow, Stack } from '@/api/types';
import { FIRST_WISH, fitting, hindrance, settingsOf } from '@/engine/capture/wish';
import type { Command } from '@/engine/keys/registry';
import { dropped, type Named } from '@/engine/uploads/files';
import { takeIn, uploadsOf } from '@/engine/uploads/stackUploads';
import { useCommands } from '@/hooks/useCommands';
import { useKept } from '@/hooks/useKept';
import { Choice } from '@/ui/Choice';
import { notify } from '@/ui/Notices';
import { Failed, Loading } from '@/ui/States';
import { FilesPanel } from '@/views/intake/FilesPanel';
import { StackPanel } from '@/views/intake/StackPanel';
import { Taking } from '@/views/intake/Taking';
import { CaptureAgain } from './CaptureAgain';
import { FeederView } from './FeederView';
import { GlassView } from './GlassView';
import { LeavesView } from './LeavesView';
import { RunView } from './RunView';
import { StationPanel } from './StationPanel';
import { type GlassState, useGlass } from './useGlass';
import { type Loads, useLoads } from './useLoads';

export type CaptureViewProps = {
  stack: Stack | undefined;
  stackId: number;
  change: number;
  pages: PageRow[];
  page: PageRow | undefined;
  onChange: (doing: Doing) => void;
  onPage: (id: number) => void;
};
type Side = 'stations' | 'files' | 'stack';
const NEXT_SIDE: Record<Side, Side> = { stations: 'files', files: 'stack', stack: 'stations' };

/** Paper in hand: stations, the glass, loads of the feeder, files, and what is to be captured again. */
export function CaptureView({ stack, stackId, change, pages, page, onChange, onPage }: CaptureViewProps) {
  const { data: stations, error, refetch } = useQuery(stationsQuery);
  const { data: papers = [] } = useQuery(papersQuery);
  const [kept, setWish] = useKept('wish', FIRST_WISH);
  const [{ side }, setSide] = useKept<{ side: Side }>('intake side', { side: 'stations' });
  const { start, starting, steer, steering } = useCapture(stackId);
  const station = stations?.find(({ id }) => id === kept.station) ?? stations?.[0];
  const wish = fitting({ ...kept, station: station?.id }, station);
  const byId = useMemo(() => new Map(pages.map((one) => [one.id, one])), [pages]);
  const loads = useLoads(stackId, station, pages);
  const { run, pair } = loads;
  const glass = useGlass(station, async () => {
    const { data } = await refetch();
    return data?.find(({ id }) => id === station?.id)?.advice;
  });
  const files = useFiles(stackId);

  const hindered = hindrance(wish, station, glass.frames, page?.id);
  const half = wish.source === 'feeder' && wish.sides === 'apart' ? (pair && !pair.backs ? 'backs' : 'fronts') : '';
  const steerRun = (way: 'go-on' | 'finish' | 'cancel') => run && steer({ run: run.id, action: way });
  const look = () => {
    loads.leave();
    glass.look();
  };
  const capture = () => {
    if (!station || hindered) return;
    loads.begin(half);
    const settings = settingsOf(wish, { frames: glass.frames, page: page?.id, half, papers });
    start({ station: station.id, settings });
  };
  const leave = () => {
    // What lay there is in; a cancelled capture is often done again, with the same frames.
    if (run?.state === 'done') glass.clear();
    loads.leave();
  };
  const waits =
    starting ||
    glass.looking ||
    loads.weaving ||
    (!!run && (wish.source === 'platen' || isOpen(run) || run.state === 'stopped'));
  const onGlass = !run && !loads.weaving && wish.source === 'platen' && !!station?.platen;
  useCommands([
    { name: 'capture', label: 'Capture', key: 'c', enabled: !waits && !hindered, perform: capture },
    ...glassCommands(glass, look, onGlass),
    ...loadCommands(loads, steerRun, leave),
    {
      name: 'intake side',
      label: 'Stations, files, or the stack beside it',
      key: 'h',
      perform: () => setSide({ side: NEXT_SIDE[side] }),
    },
  ]);

  if (error && !stations) return <Failed message={error.message} retry={() => refetch()} />;
  if (!stations) return <Loading label="Asking the stations" className="m-6 flex-1 opacity-40" />;
  return (
    <>
      <main
        className="on-surround flex min-w-0 flex-1 flex-col bg-surround"
        onDragOver={(event) => event.preventDefault()}
        onDrop={async (event) => {
          event.preventDefault();
          files.add(await dropped(event.dataTransfer.items));
        }}
      >
        {files.shown ? (
          <Taking queue={files.queue} stackId={stackId} pages={byId} onLeave={files.leave} />
        ) : loads.weaving && pair?.backs ? (
          <LeavesView
            fronts={pair.fronts}
            backs={pair.backs}
            pages={byId}
            single={loads.single}
            onSingle={loads.setSingle}
            onApply={(doing) => {
              onChange(doing);
              loads.leave();
            }}
            onLeave={loads.leave}
          />
        ) : run ? (
          <RunView run={run} pages={byId} steering={steering} onSteer={steerRun} onLeave={leave} />
        ) : onGlass && station ? (
          <GlassView glass={glass} station={station} wish={wish} papers={papers} />
        ) : (
          <FeederView
            loads={loads}
            half={half}
            sides={wish.sides}
            empty={station?.standing.includes('empty') ?? false}
            pages={byId}
          />
        )}
      </main>
      <aside aria-label="Capture" className="flex w-[300px] shrink-0 flex-col border-l border-hairline bg-ground">
        <div className="flex h-12 shrink-0 items-center px-4">
          <Choice
            label="Beside the glass"
            value={side}
            onChange={(next) => setSide({ side: next })}
            options={[
              { value: 'stations', label: 'Stations' },
              { value: 'files', label: 'Files' },
              { value: 'stack', label: 'Stack' },
            ]}
          />
        </div>
        {side === 'stations' && (
          <StationPanel
            stations={stations}
            papers={papers}
            wish={wish}
            onWish={setWish}
            frames={glass.frames}
            page={page}
            stack={stack}
            hindered={hindered}
            busy={waits}
            captureLabel={half === 'fronts' ? 'Capture fronts' : half === 'backs' ? 'Capture backs' : 'Capture'}
            onCapture={capture}
            onLook={look}
          />
        )}
        {side === 'files' && (
          <FilesPanel stackId={stackId} change={change} page={page} ids={files.queue.ids()} onFiles={files.add} />
        )}
        {side === 'stack' && stack && <StackPanel stack={stack} onChange={onChange} />}
        <CaptureAgain
          pages={pages}
          onPage={(id) => {
            loads.leave();
            onPage(id);
            setSide({ side: 'stations' });
            // One image takes its place, so it needs a glass: that of another station where this one has none.
            const withGlass = station?.platen ? station : stations.find(({ platen }) => platen);
            setWish({ ...wish, station: withGlass?.id ?? station?.id, source: 'platen', place: 'instead' });
          }}
        />
      </aside>
    </>
  );
}

/** Files on their way into the stack, and whether they are looked at. */
function useFiles(stackId: number) {
  const queue = uploadsOf(stackId);
  const uploads = useSyncExternalStore(queue.subscribe, queue.get);
  const [away, setAway] = useState(false);
  const add = async (files: Named[], where = {}) => {
    if (files.length === 0) return notify('There are no files in that: choose scans, or a folder of them.');
    setAway(false);
    try {
      await takeIn(stackId, files, where);
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const leave = () => {
    queue.clear();
    setAway(true);
  };
  return { queue, add, leave, shown: uploads.length > 0 && !away };
}

const glassCommands = (glass: GlassState, look: () => void, enabled: boolean): Command[] => [
  { name: 'look', label: 'Look at the glass', key: 'l', enabled: enabled && !glass.looking, perform: look },
  { name: 'frame', label: 'A new frame on the glass', key: 'm', enabled, perform: glass.addFrame },
  { name: 'turn view', label: 'Turn the view of the glass', key: 't', enabled, perform: glass.turnView },
];

function loadCommands(
  { run }: Loads,
  steer: (way: 'go-on' | 'finish' | 'cancel') => void,
  leave: () => void,
): Command[] {
  const stopped = run?.state === 'stopped';
  const open = isOpen(run);
  return [
    { name: 'go on', label: 'Go on with the load', key: 'g', enabled: stopped, perform: () => steer('go-on') },
    { name: 'finish', label: 'Finish with what is in', key: 'f', enabled: stopped, perform: () => steer('finish') },
    {
      name: 'cancel load',
      label: 'Cancel the load, keep nothing',
      key: 'Shift+x',
      enabled: open || stopped,
      perform: () => steer('cancel'),
    },
    { name: 'next load', label: 'Ready for the next', key: 'n', enabled: !!run && !open && !stopped, perform: leave },
  ];
}
