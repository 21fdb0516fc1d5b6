import { useState } from 'react';
import type { Steering } from '@/api/capture';
import type { PageRow, Run } from '@/api/types';
import { isOpen } from '@/engine/capture/loads';
import { remarksOf } from '@/engine/capture/remarks';
import { Bar } from '@/ui/Bar';
import { Button } from '@/ui/Button';
import { remarkWords } from '@/words/remarks';
import { cameWords, runWords } from '@/words/runs';
import { Captured } from './Captured';
import type { CaptureButton } from './CaptureEdge';

export type RunViewProps = {
  run: Run;
  pages: ReadonlyMap<number, PageRow>;
  steering: boolean;
  onSteer: (action: Steering) => void;
  onLeave: () => void;
  /** On the glass the next page is captured from here, as this one was. */
  capture?: CaptureButton | undefined;
};

const SEEN = 14;

/** A load under way: its last page large enough to see whether it is sharp, what came before, and what can be done. */
export function RunView({ run, pages, steering, onSteer, onLeave, capture }: RunViewProps) {
  const [looked, setLooked] = useState<number>();
  const last = run.files.at(-1)?.index;
  const shown = run.files.find(({ index }) => index === (looked ?? last)) ?? run.files.at(-1);
  const expected = run.expected ?? 0;
  const remarks = remarksOf(run, pages);
  const going = run.state === 'wanted' || run.state === 'running';
  const under = isOpen(run) || run.state === 'stopped';
  return (
    <section aria-label="Load" className="flex min-h-0 min-w-0 flex-1 flex-col text-surround-ink">
      <div className="flex min-h-0 flex-1">
        {run.files.length > 0 && (
          <ul aria-label="Captured pages" className="flex w-24 shrink-0 flex-col gap-1.5 overflow-hidden p-3 pr-0">
            {[...run.files]
              .reverse()
              .slice(0, SEEN)
              .map(({ index, page }) => (
                <li key={index} className="h-20 shrink-0">
                  <button
                    type="button"
                    aria-label={`Page ${index + 1} of this load`}
                    aria-pressed={index === shown?.index}
                    onClick={() => setLooked(index === last ? undefined : index)}
                    className={`flex h-full w-full items-center justify-center p-1 ${index === shown?.index ? 'bg-paper' : ''}`}
                  >
                    <Captured run={run} index={index} page={pages.get(page ?? -1)} />
                  </button>
                </li>
              ))}
          </ul>
        )}
        <div className="flex min-h-0 min-w-0 flex-1 items-center justify-center p-4">
          {shown ? (
            <Captured run={run} index={shown.index} page={pages.get(shown.page ?? -1)} large />
          ) : (
            run.state !== 'cancelled' && <p className="bg-panel px-4 py-3 text-ink">The first page is on its way.</p>
          )}
        </div>
      </div>
      <div className="flex shrink-0 flex-col gap-2 bg-panel px-5 py-3 text-ink">
        {run.problem && (
          <p role="alert" className="border-l-3 border-ink pl-3 text-title">
            {run.problem}
          </p>
        )}
        <ul aria-label="Worth knowing" aria-live="polite" className="contents">
          {remarks.map((remark) => (
            <li key={remark.kind} className="border-l-3 border-ink pl-3">
              {remarkWords(remark, run)}
            </li>
          ))}
        </ul>
        <div className="flex flex-wrap items-center gap-3">
          <span className="font-semibold" role="status">
            {runWords(run)}
          </span>
          <span className="text-soft">{run.station_name}</span>
          <span className="font-mono">{cameWords(run)}</span>
          <span className="ml-auto flex flex-wrap gap-2">
            {run.state === 'stopped' && (
              <Button kind="main" shortcut="g" disabled={steering} onClick={() => onSteer('go-on')}>
                Go on
              </Button>
            )}
            {going && run.settings.source === 'feeder' && (
              <Button shortcut="p" disabled={steering} onClick={() => onSteer('pause')}>
                Pause
              </Button>
            )}
            {(going || run.state === 'stopped') && (
              <Button shortcut="k" disabled={steering} onClick={() => onSteer('finish')}>
                {going ? 'End, keep what came' : 'Keep what came'}
              </Button>
            )}
            {under ? (
              <Button
                shortcut="Shift+x"
                disabled={steering || run.state === 'cancelling'}
                onClick={() => onSteer('cancel')}
              >
                Discard this load
              </Button>
            ) : (
              <>
                {capture && (
                  <Button
                    kind="main"
                    shortcut="c"
                    disabled={capture.disabled}
                    why={capture.why}
                    onClick={capture.onCapture}
                  >
                    Capture the next
                  </Button>
                )}
                <Button kind={capture ? 'plain' : 'main'} shortcut="n" onClick={onLeave}>
                  {run.settings.source === 'platen' ? 'Back to the glass' : 'Next load'}
                </Button>
              </>
            )}
          </span>
        </div>
        {run.binds_as && (
          <p>
            Order slip: what comes is corrected and read, then bound as “{run.binds_as}”. Nothing more needs to be done.
          </p>
        )}
        {isOpen(run) && expected > 0 && <Bar label="Captured" value={run.received} max={expected} />}
      </div>
    </section>
  );
}
