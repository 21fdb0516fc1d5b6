import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { isOpen, proposedFrames, runsQuery, stationsQuery, useCapture } from '../../../api/capture';
import { post } from '../../../api/client';
import type { Doing, PageRow, Run } from '../../../api/types';
import { useCommands } from '../../../commands/useCommands';
import { figure } from '../../../format';
import { drawn, type Frame } from '../../../geometry/frames';
import { Button } from '../../../parts/Button';
import { notify } from '../../../parts/Notices';
import { Empty, Failed, Loading } from '../../../parts/States';
import { useKept } from '../../../parts/useKept';
import { dropped, type Named } from '../../../upload/files';
import { sendTo, UploadQueue } from '../../../upload/queue';
import { useFilePicker } from '../../../upload/useFilePicker';
import { Taking } from '../Taking';
import { Glass } from './Glass';
import { LeavesView } from './LeavesView';
import { RunView } from './RunView';
import { StationPanel } from './StationPanel';
import { FIRST_WISH, fitting, hindrance, PAPERS, settingsOf } from './wish';

export type CaptureViewProps = {
  stackId: number;
  pages: PageRow[];
  page: PageRow | undefined;
  onChange: (doing: Doing) => void;
  onPage: (id: number) => void;
};

/** Paper in hand: stations, the glass, loads of the feeder, and what is to be captured again. */
export function CaptureView({ stackId, pages, page, onChange, onPage }: CaptureViewProps) {
  const { data: stations, error, refetch } = useQuery(stationsQuery);
  const { data: runs } = useQuery(runsQuery(stackId));
  const [kept, setWish] = useKept('wish', FIRST_WISH);
  const { start, starting, steer, steering } = useCapture(stackId);
  const [nonce, setNonce] = useState<string>();
  const [looking, setLooking] = useState(false);
  const [frames, setFrames] = useState<Frame[]>([]);
  const [chosen, setChosen] = useState<number>();
  const [quarter, setQuarter] = useState(0);
  const [left, setLeft] = useState<number>();
  const [asked, setAsked] = useState<'' | 'leaves'>('');

  const [uploads, setUploads] = useState<UploadQueue>();
  const addFiles = async (files: Named[]) => {
    if (files.length === 0) return notify('There are no files in that: choose scans, or a folder of them.');
    if (uploads) return uploads.add(files);
    try {
      const load = await post<{ id: number }>(`/api/stacks/${stackId}/loads`, {});
      const queue = new UploadQueue(sendTo(load.id));
      queue.add(files);
      setUploads(queue);
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const { inputs, chooseFiles, chooseFolder } = useFilePicker(addFiles);

  const station = stations?.find(({ id }) => id === kept.station) ?? stations?.[0];
  const wish = fitting({ ...kept, station: station?.id }, station);
  const byId = useMemo(() => new Map(pages.map((one) => [one.id, one])), [pages]);
  const latest = runs?.[0];
  const pair = halves(runs);
  const isNews = latest && latest.id !== left && latest.station === station?.id && wasSeen(latest);
  const run = latest && (isOpen(latest) || latest.state === 'stopped' || isNews) ? latest : undefined;
  const putting =
    pair?.backs &&
    (asked === 'leaves' || run?.id === pair.backs.id) &&
    pair.backs.state === 'done' &&
    !inOrder(pair, pages);
  const hindered = hindrance(wish, station, frames, page?.id);
  const half = wish.source === 'feeder' && wish.sides === 'apart' ? (pair && !pair.backs ? 'backs' : 'fronts') : '';

  const look = () => {
    if (!station?.platen) return;
    setLeft(latest?.id);
    setFrames([]);
    setChosen(undefined);
    setLooking(true);
    setNonce(
      crypto.getRandomValues(new Uint32Array(4)).reduce((text, word) => text + word.toString(16).padStart(8, '0'), ''),
    );
  };
  const looked = async () => {
    setLooking(false);
    if (!nonce) return;
    try {
      const found = await proposedFrames(nonce);
      setFrames((drawnMeanwhile) => (drawnMeanwhile.length ? drawnMeanwhile : found));
    } catch (problem) {
      notify((problem as Error).message);
    }
  };
  const lookFailed = async () => {
    setLooking(false);
    setNonce(undefined);
    const { data } = await refetch();
    const now = data?.find(({ id }) => id === station?.id);
    notify(now?.advice || 'The station did not send a picture: look at it, then try again.');
  };
  const capture = () => {
    if (!station || hindered) return;
    setLeft(undefined);
    setAsked('');
    start({ station: station.id, settings: settingsOf(wish, { frames, page: page?.id, half }) });
  };
  const addFrame = () => {
    const glass = station?.platen;
    if (!glass) return;
    setFrames([
      ...frames,
      drawn(glass.width_mm * 0.2, glass.height_mm * 0.2, glass.width_mm * 0.6, glass.height_mm * 0.5),
    ]);
    setChosen(frames.length);
  };
  const leave = () => {
    setLeft(run?.id);
    // What lay there is in; a cancelled capture is often done again, with the same frames.
    if (run?.state === 'done') {
      setFrames([]);
      setNonce(undefined);
      setChosen(undefined);
    }
  };
  const steerRun = (way: 'go-on' | 'finish' | 'cancel') => run && steer({ run: run.id, wish: way });
  const waits =
    starting || looking || !!putting || (!!run && (wish.source === 'platen' || isOpen(run) || run.state === 'stopped'));
  const onGlass = !run && !putting && wish.source === 'platen' && !!station?.platen;
  useCommands([
    { name: 'look', label: 'Look at the glass', key: 'l', enabled: onGlass && !looking, perform: look },
    {
      name: 'capture',
      label: 'Capture',
      key: 'c',
      enabled: !waits && !hindered,
      perform: capture,
    },
    { name: 'frame', label: 'A new frame on the glass', key: 'm', enabled: onGlass, perform: addFrame },
    {
      name: 'turn view',
      label: 'Turn the view of the glass',
      key: 't',
      enabled: onGlass,
      perform: () => setQuarter((quarter + 1) % 4),
    },
    {
      name: 'go on',
      label: 'Go on with the load',
      key: 'g',
      enabled: run?.state === 'stopped',
      perform: () => steerRun('go-on'),
    },
    {
      name: 'finish',
      label: 'Finish with what is in',
      key: 'f',
      enabled: run?.state === 'stopped',
      perform: () => steerRun('finish'),
    },
    {
      name: 'cancel load',
      label: 'Cancel the load, keep nothing',
      key: 'Shift+x',
      enabled: isOpen(run) || run?.state === 'stopped',
      perform: () => steerRun('cancel'),
    },
    {
      name: 'next load',
      label: 'Ready for the next',
      key: 'n',
      enabled: !!run && !isOpen(run) && run.state !== 'stopped',
      perform: leave,
    },
  ]);
  useEffect(() => {
    if (chosen === undefined) return;
    requestAnimationFrame(() => document.querySelector<SVGElement>(`[aria-label^="Frame ${chosen + 1},"]`)?.focus());
  }, [chosen]);

  if (error && !stations) return <Failed message={error.message} retry={() => refetch()} />;
  if (!stations) return <Loading label="Asking the stations" className="m-6 flex-1 opacity-40" />;
  const again = pages.filter((one) => one.rescan);
  const frame = chosen === undefined ? undefined : frames[chosen];
  return (
    <>
      <main
        className="on-surround flex min-w-0 flex-1 flex-col bg-surround"
        onDragOver={(event) => event.preventDefault()}
        onDrop={async (event) => {
          event.preventDefault();
          addFiles(await dropped(event.dataTransfer.items));
        }}
      >
        {inputs}
        {uploads ? (
          <div className="flex min-h-0 flex-1 flex-col gap-3 bg-board p-4">
            <Taking queue={uploads} stackId={stackId} />
            <Button className="self-start" onClick={() => setUploads(undefined)}>
              Back to the stations
            </Button>
          </div>
        ) : putting && pair?.backs ? (
          <LeavesView
            fronts={pair.fronts}
            backs={pair.backs}
            pages={byId}
            onApply={(doing) => {
              onChange(doing);
              setLeft(latest?.id);
              setAsked('');
            }}
            onLeave={() => {
              setLeft(latest?.id);
              setAsked('');
            }}
          />
        ) : run ? (
          <RunView run={run} pages={byId} steering={steering} onSteer={steerRun} onLeave={leave} />
        ) : onGlass && station?.platen ? (
          <>
            <Glass
              size={station.platen}
              picture={nonce && `/api/stations/${station.id}/prescan/${nonce}.jpg`}
              looking={looking}
              frames={frames}
              chosen={chosen}
              paper={PAPERS[wish.paper]?.size ?? null}
              quarter={quarter}
              onLoad={looked}
              onError={lookFailed}
              onFrames={setFrames}
              onChoose={setChosen}
            />
            <div className="flex h-11 shrink-0 items-center gap-3 border-t border-strong-line bg-board px-4">
              <span>
                {frames.length
                  ? `${frames.length === 1 ? '1 frame' : `${frames.length} frames`}, a page each`
                  : nonce
                    ? 'No frame: the paper size is captured'
                    : 'Lay the sheet face down, its corner at the mark, and look'}
              </span>
              {frame && (
                <span className="ml-auto font-mono text-xs" data-testid="frame-size">
                  {figure(frame.width, 0)} × {figure(frame.height, 0, 'mm')} ·{' '}
                  {figure((frame.width / 25.4) * wish.ppi, 0)} × {figure((frame.height / 25.4) * wish.ppi, 0, 'px')}
                </span>
              )}
              <span className={frame ? 'flex gap-1' : 'ml-auto flex gap-1'}>
                <Button onClick={addFrame}>
                  New frame <kbd className="font-mono text-xs text-soft-ink">M</kbd>
                </Button>
                <Button onClick={() => setQuarter((quarter + 1) % 4)}>
                  Turn view <kbd className="font-mono text-xs text-soft-ink">T</kbd>
                </Button>
              </span>
            </div>
          </>
        ) : (
          <div className="min-h-0 flex-1 bg-surround-deep text-pale-ink">
            <Empty title={feederTitle(wish.sides, half)}>
              <p>{feederWords(half, station?.standing.includes('empty') ?? false)}</p>
              {pair?.backs && !inOrder(pair, pages) && (
                <Button className="mt-4 text-ink" onClick={() => setAsked('leaves')}>
                  Bring fronts and backs together …
                </Button>
              )}
            </Empty>
          </div>
        )}
      </main>
      <aside aria-label="Capture" className="flex w-[300px] shrink-0 flex-col border-l border-strong-line bg-board">
        <StationPanel
          stations={stations}
          wish={wish}
          onWish={setWish}
          frames={frames}
          page={page}
          hindered={hindered}
          busy={waits}
          captureLabel={half === 'fronts' ? 'Capture fronts' : half === 'backs' ? 'Capture backs' : 'Capture'}
          onCapture={capture}
          onLook={look}
        />
        <section aria-label="Files" className="flex shrink-0 gap-2 border-t border-strong-line px-4 py-3">
          <Button className="flex-1" onClick={chooseFiles}>
            Add files …
          </Button>
          <Button className="flex-1" onClick={chooseFolder}>
            Add a folder …
          </Button>
        </section>
        {again.length > 0 && (
          <section aria-label="To capture again" className="shrink-0 border-t border-strong-line p-4">
            <h2 className="text-xs text-soft-ink">To capture again, in place</h2>
            <ul className="mt-1 flex max-h-24 flex-wrap gap-1 overflow-y-auto">
              {again.map((one) => (
                <li key={one.id}>
                  <Button
                    className="h-7!"
                    title={one.rescan}
                    onClick={() => {
                      setLeft(latest?.id);
                      onPage(one.id);
                      setWish({ ...wish, source: 'platen', place: 'instead' });
                    }}
                  >
                    Page {one.number}
                  </Button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </aside>
    </>
  );
}

const feederTitle = (sides: string, half: string) =>
  half === 'fronts'
    ? 'First the fronts'
    : half === 'backs'
      ? 'Now the backs'
      : sides === 'both'
        ? 'Both sides at once'
        : 'The feeder';

function feederWords(half: string, empty: boolean): string {
  if (half === 'backs')
    return 'Turn the whole bundle over, lay it in again, and capture the backs. Sheets without a back can be marked afterwards.';
  if (empty) return 'The feeder is empty: lay the bundle in, its guides snug against the paper.';
  if (half === 'fronts') return 'Lay the bundle in, give the number of sheets, and capture the fronts.';
  return 'Lay the bundle in, its guides snug against the paper, and capture. Pages appear here as they come.';
}

/** A run that was over before the application was opened is history, not news. */
const opened = Date.now();
const wasSeen = (run: Run) => Date.parse(run.started_at) > opened - 60_000;

type Pair = { fronts: Run; backs: Run | undefined };

/** The last fronts, with the backs captured after them. */
function halves(runs: readonly Run[] | undefined): Pair | undefined {
  const done = runs?.filter(({ state }) => state === 'done') ?? [];
  const last = done.find(({ settings }) => settings.half);
  if (!last) return undefined;
  if (last.settings.half === 'fronts') return { fronts: last, backs: undefined };
  const fronts = done.find((run) => run.settings.half === 'fronts' && run.id < last.id);
  return fronts && { fronts, backs: last };
}

/** Whether fronts and backs stand among each other already, or some are gone. */
function inOrder({ fronts, backs }: Pair, pages: readonly PageRow[]): boolean {
  const place = new Map(pages.map((page) => [page.id, page.number]));
  const of = (run: Run | undefined) => run?.files.map(({ page }) => place.get(page ?? -1)) ?? [];
  const [front, back] = [of(fronts), of(backs)];
  if (!front.length || !back.length || [...front, ...back].includes(undefined)) return true;
  return Math.min(...(back as number[])) < Math.max(...(front as number[]));
}
