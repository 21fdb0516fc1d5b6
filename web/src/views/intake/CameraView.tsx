import { useEffect, useRef } from 'react';
import type { PageRow } from '@/api/types';
import type { Table } from '@/hooks/useTable';
import { Button } from '@/ui/Button';
import { Toggle } from '@/ui/Toggle';
import { cameraWords, isWrong } from '@/words/camera';
import { counted } from '@/words/figures';
import { LastPhotograph } from './LastPhotograph';

export type CameraViewProps = {
  table: Table;
  pages: readonly PageRow[];
  /** Files that came whole or in part and were not added; and what shows them. */
  failed: number;
  onFailed: () => void;
};

const SIDES = [
  'inset-y-0 left-0 w-1.5',
  'inset-x-0 top-0 h-1.5',
  'inset-y-0 right-0 w-1.5',
  'inset-x-0 bottom-0 h-1.5',
];

/** What the camera sees, with the page's outline in it, what is wrong with it, and what was taken last. */
export function CameraView({ table, pages, failed, onFailed }: CameraViewProps) {
  const { camera, automatic, quarter } = table;
  const { seen } = camera;
  const { stage, source, answer, said, taken, held, heldFor } = seen;
  const words = cameraWords(seen, automatic);
  const wrong = isWrong(said);
  const [wide, high] = [source?.video.videoWidth || 16, source?.video.videoHeight || 9];
  return (
    // On a telephone it is all there is: the eyes are on the paper.
    <section
      aria-label="Camera"
      className="flex min-h-0 min-w-0 flex-1 flex-col text-surround-ink max-sm:fixed max-sm:inset-0 max-sm:z-10 max-sm:bg-surround sm:flex-row"
    >
      <LastPhotograph pages={pages} taken={taken} onRetake={table.setInstead} />
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <div className="flex min-h-0 flex-1 items-center justify-center p-4 pb-2">
          {stage === 'failed' ? (
            <div className="flex max-w-[52ch] flex-col items-start gap-3 bg-panel px-5 py-4 text-ink">
              <p role="alert">{words}</p>
              <Button kind="main" onClick={() => camera.open()}>
                Open the camera again
              </Button>
            </div>
          ) : source ? (
            <div
              className="relative max-h-full max-w-full sm:h-full"
              style={{
                aspectRatio: `${wide} / ${high}`,
                rotate: `${quarter * 90}deg`,
                scale: quarter % 2 ? Math.min(wide / high, high / wide) : 1,
              }}
            >
              <Live video={source.video} />
              {answer?.quad && (
                <svg
                  viewBox="0 0 1 1"
                  preserveAspectRatio="none"
                  className="absolute inset-0 size-full"
                  aria-hidden="true"
                >
                  <polygon
                    points={answer.quad.map(([x, y]) => `${x},${y}`).join(' ')}
                    fill="none"
                    vectorEffect="non-scaling-stroke"
                    strokeWidth={said === 'taken' || said === 'steady' ? 4 : 2}
                    strokeDasharray={wrong || said === 'moves' ? '7 6' : undefined}
                    className="stroke-accent"
                  />
                </svg>
              )}
              {said === 'cut off' &&
                answer?.sides.map((side) => (
                  <span key={side} aria-hidden="true" className={`absolute bg-accent ${SIDES[side] ?? ''}`} />
                ))}
            </div>
          ) : (
            <p className="bg-panel px-4 py-3 text-ink">{words}</p>
          )}
        </div>
        <div className="flex shrink-0 flex-col gap-2 bg-panel px-5 py-3 text-ink">
          <p
            role="status"
            className={`min-h-7 text-title ${wrong ? 'border-l-3 border-ink pl-3' : ''}`}
            data-testid="camera-says"
          >
            {stage === 'failed' ? '' : words}
          </p>
          {held > 0 && (
            <p role="alert" className="flex flex-wrap items-center gap-3 border-l-3 border-ink pl-3">
              {counted(held, 'picture')} could not be sent. {heldFor} {held === 1 ? 'It is' : 'They are'} kept here
              while this page is open.
              <Button size="small" onClick={camera.again}>
                Send again
              </Button>
            </p>
          )}
          {failed > 0 && (
            <p role="alert" className="flex flex-wrap items-center gap-3 border-l-3 border-ink pl-3">
              {counted(failed, 'file')} could not be added to the stack.
              <Button size="small" onClick={onFailed}>
                Show {failed === 1 ? 'it' : 'them'}
              </Button>
            </p>
          )}
          <div className="flex flex-wrap items-center gap-2.5">
            <Button kind="main" shortcut="c" disabled={!table.ready} onClick={camera.release}>
              Capture
            </Button>
            <Toggle on={automatic} onChange={(on) => table.change({ automatic: on })} shortcut="a">
              By itself
            </Toggle>
            <Button shortcut="t" size="small" disabled={stage !== 'open'} onClick={table.turn}>
              Turn view
            </Button>
            <span className="font-mono text-small" data-testid="camera-count">
              {counted(taken, 'picture')}
            </span>
            <span className="ml-auto">
              <Button kind="quiet" onClick={table.leave}>
                Close the camera
              </Button>
            </span>
          </div>
        </div>
      </div>
    </section>
  );
}

/** The camera's own picture element: one that lives longer than this view. */
function Live({ video }: { video: HTMLVideoElement }) {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    video.className = 'size-full';
    frame.current?.append(video);
    void video.play().catch(() => undefined);
    return () => video.remove();
  }, [video]);
  return <div ref={frame} className="size-full" />;
}
